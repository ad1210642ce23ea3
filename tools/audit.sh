#!/usr/bin/env bash
# Known weaknesses of what ships, as far as the registries can be reached; says what could not be.
set -uo pipefail
cd "$(dirname "$0")/.."
worst=0

echo "The front end's packages, by the npm registry:"
found=$(cd web && npm audit --omit=dev 2>&1)
case "$found" in
  *"found 0 vulnerabilities"*) echo "  none known." ;;
  *ENOTFOUND* | *ENDPOINT* | *"audit endpoint"* | *"not implemented"* | *E40* | *ECONN*)
    echo "  could not be asked: the registry answers no audits here." ;;
  *) echo "$found"; worst=1 ;;
esac

echo "Python's packages, by PyPI:"
if [ ! -x build/audit/bin/pip-audit ]; then
  .venv/bin/python -m venv build/audit && build/audit/bin/pip install --quiet --disable-pip-version-check pip-audit
fi
if [ -x build/audit/bin/pip-audit ]; then
  found=$(build/audit/bin/pip-audit --disable-pip --no-deps --require-hashes -r requirements.lock 2>&1)
  status=$?
  case "$found" in
    *"No known vulnerabilities"*) echo "  none known." ;;
    *"ConnectionError"* | *"Failed to"* | *"HTTPError"* | *"404"* | *"Error"*)
      echo "  could not be asked: $(printf '%s' "$found" | tail -n 1 | cut -c1-160)" ;;
    *) echo "$found"; [ $status -eq 0 ] || worst=1 ;;
  esac
else
  echo "  could not be asked: pip-audit could not be installed."
fi
exit $worst
