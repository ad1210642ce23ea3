from nudge.cli import main

raise SystemExit(main())
