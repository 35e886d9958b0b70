"""Sheet files and their schema, reports, SVG and PDF. No Qt: scripts use the same door."""
