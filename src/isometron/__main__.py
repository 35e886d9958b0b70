"""`python -m isometron` is the command `isometron`."""

from isometron.cli import main

raise SystemExit(main())
