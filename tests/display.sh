#!/usr/bin/env bash
# SPDX-License-Identifier: GPL-3.0-or-later
# Walks the window on a real display server without a screen: display.sh wayland|xcb FACTOR TEST_LAYOUT. 77: there is none here.
set -euo pipefail
display=$1 factor=$2 test=$3
place=$(mktemp -d)
server=
trap '[ -n "$server" ] && kill "$server" 2>/dev/null; wait 2>/dev/null; rm -rf "$place"' EXIT
export ML_DISPLAY=$display QT_QPA_PLATFORM=$display QT_SCALE_FACTOR=$factor XDG_RUNTIME_DIR=$place
chmod 700 "$place"
if [ "$display" = wayland ]; then
  command -v weston >/dev/null || exit 77
  weston --backend=headless-backend.so --socket=shown --width=2800 --height=1800 --idle-time=0 >"$place/log" 2>&1 &
  server=$!
  export WAYLAND_DISPLAY=shown
  ready() { [ -S "$place/shown" ]; }
else
  command -v Xvfb >/dev/null || exit 77
  Xvfb -displayfd 3 -screen 0 2800x1800x24 -nolisten tcp 3>"$place/number" 2>"$place/log" &
  server=$!
  ready() { [ -s "$place/number" ]; }
fi
for _ in $(seq 200); do
  ready && break
  kill -0 "$server" 2>/dev/null || { cat "$place/log" >&2; exit 77; }
  sleep 0.05
done
[ "$display" = xcb ] && export DISPLAY=:$(cat "$place/number")
"$test" onTheDisplayAskedFor
