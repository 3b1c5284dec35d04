#!/usr/bin/env bash
# Opens the demo; without a display it starts on a virtual screen, says so, and saves a picture of the first view.
set -eu
cd "$(dirname "$0")/.."
if [ -n "${DISPLAY:-}${WAYLAND_DISPLAY:-}" ]; then
  exec .venv/bin/bicentra --demo
fi
picture="$PWD/demo-first-view.png"
echo "There is no display here: starting on a virtual screen (Xvfb)."
echo "A picture of the first view will be saved as $picture"
exec xvfb-run -a -s "-screen 0 1280x800x24" .venv/bin/bicentra --demo --picture "$picture"
