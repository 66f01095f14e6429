#!/usr/bin/env bash
# SPDX-License-Identifier: GPL-3.0-or-later
# Renders a demo world again and packs it for shipping: worlds/render.sh reading_room
# Needs povray and povray-includes and a built ml_pack_world. A room takes about a quarter of an hour on two cores, all directions three quarters.
set -euo pipefail
here=$(cd "$(dirname "$0")" && pwd)
world=${1:?which world?}
out=${2:-$here/../build/worlds/$world}
pack=${PACK:-$here/../build/release/worlds/ml_pack_world}
mkdir -p "$out"
cd "$here/$world"

# render NAME PART FRAME OPTIONS...: one thread unless the options say otherwise, so that the bits repeat.
render() {
  local name=$1 part=$2 frame=$3
  shift 3
  [ -s "$out/$name.exr" ] && return
  povray "+I$world.pov" "+O$out/$name.part.exr" +FE +W1800 +H1200 -D -J Antialias_Gamma=4 +WT1 "$@" \
    "Declare=Part=$part" "Declare=Frame=$frame" >"$out/$name.log" 2>&1
  mv "$out/$name.part.exr" "$out/$name.exr"
}

# shellcheck source=/dev/null
source ./parts.sh
"$pack" "$out" "$here/$world"
