#!/usr/bin/env bash
# Puts in place what is missing, and says exactly what to install where it cannot.
#   setup.sh python LOCKFILE   the virtual environment, from pinned and hashed versions
#   setup.sh node              web/node_modules, from package-lock.json
#   setup.sh browser           Debian's Chromium, without a desktop around it
set -euo pipefail
cd "$(dirname "$0")/.."

say() { printf 'setup: %s\n' "$*" >&2; }

# Install Debian packages where we may; otherwise name them and stop.
need() {
  if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
    say "installing $*"
    apt-get update -qq >/dev/null && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq "$@" >/dev/null
  else
    say "missing: $*. Install with: sudo apt-get install $*"
    exit 1
  fi
}

# Debian's own first: it is built with a profile of what programs do. One built by hand, as it comes,
# takes a quarter longer for a typed reading.
PYTHONS=(/usr/bin/python3.11 python3.11 python3)

python() {
  local found=""
  for name in "${PYTHONS[@]}"; do
    if command -v "$name" >/dev/null && "$name" -c 'import sys, ensurepip, venv; sys.exit(sys.version_info[:2] != (3, 11))' 2>/dev/null; then
      found=$name
      break
    fi
  done
  [ -n "$found" ] || { need python3.11 python3.11-venv; found=/usr/bin/python3.11; }
  if [ ! -x .venv/bin/python ] || ! .venv/bin/python -m pip --version >/dev/null 2>&1; then
    say "making .venv"
    "$found" -m venv --clear .venv
  fi
  say "installing Python packages from $1"
  .venv/bin/python -m pip install --quiet --disable-pip-version-check --require-hashes -r "$1"
  # Nudge itself runs from this folder: a path entry and a launcher, no build step.
  pwd > "$(.venv/bin/python -c 'import sysconfig; print(sysconfig.get_path("purelib"))')/nudge.pth"
  printf '#!%s/.venv/bin/python\nfrom nudge.cli import main\n\nraise SystemExit(main())\n' "$PWD" > .venv/bin/nudge
  chmod +x .venv/bin/nudge
}

node() {
  if ! command -v node >/dev/null || [ "$(command node -p 'process.versions.node.split(".")[0]')" -lt 20 ]; then
    say "missing: Node.js 20 or newer with npm. Install it, then run this again."
    exit 1
  fi
  say "installing front-end packages"
  (cd web && npm ci --no-audit --no-fund --loglevel=error)
}

browser() {
  command -v chromium-headless-shell >/dev/null && return
  if command -v chromium >/dev/null || command -v chromium-browser >/dev/null; then
    # A whole one does as well, only slower: where the lighter cannot be had it is left at that.
    { [ "$(id -u)" = 0 ] && need chromium-headless-shell; } || say "driving the whole Chromium"
    return 0
  fi
  need chromium-headless-shell || need chromium
}

"$@"
