#!/usr/bin/env bash
# Opens the window with the demo project; without a display, on a virtual screen, until ended.
set -u
cd "$(dirname "$0")/.."
if [ -n "${DISPLAY:-}${WAYLAND_DISPLAY:-}" ] || [ -n "${QT_QPA_PLATFORM:-}" ]; then
  exec .venv/bin/nullah --demo
fi
echo "No display here: the demo opens on a virtual screen (Xvfb) and stays there until you end it with Ctrl-C."
exec xvfb-run --auto-servernum --server-args="-screen 0 1280x800x24" .venv/bin/nullah --demo
