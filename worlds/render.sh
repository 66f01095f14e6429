#!/usr/bin/env bash
# Renders a demo world again and packs it for shipping: worlds/render.sh reading_room
# Needs povray and povray-includes and a built ml_pack_world. The room takes about a quarter of an hour on two cores.
set -euo pipefail
here=$(cd "$(dirname "$0")" && pwd)
world=${1:?which world?}
out=${2:-$here/../build/worlds/$world}
pack=${PACK:-$here/../build/release/worlds/ml_pack_world}
mkdir -p "$out"
cd "$here/$world"

# render NAME PART FRAME OPTIONS...: one thread, so that the bits repeat.
render() {
  local name=$1 part=$2 frame=$3
  shift 3
  [ -s "$out/$name.exr" ] && return
  povray "+I$world.pov" "+O$out/$name.part.exr" +FE +W1800 +H1200 -D -J Antialias_Gamma=4 +WT1 "$@" \
    "Declare=Part=$part" "Declare=Frame=$frame" >"$out/$name.log" 2>&1
  mv "$out/$name.part.exr" "$out/$name.exr"
}

render base 0 0 +A0.15 +AM1 +R2 +WT2
for n in 0 1 2 3; do
  render "walker_a_$n" 1 "$n" +UA +A0.05 +AM1 +R3
  render "walker_b_$n" 2 "$n" +UA +A0.05 +AM1 +R3
  render "creeper_$n" 4 "$n" +UA +A0.05 +AM1 +R3
done
for n in 0 1; do render "sail_$n" 3 "$n" +UA +A0.05 +AM1 +R3; done
for n in 1 2; do render "water_$n" 5 "$n" +SR420 +ER740 +SC500 +EC1350 +A0.15 +AM1 +R2; done
render view_mask 6 0 +A0.05 +AM1 +R3
render lake_mask 7 0 +A0.05 +AM1 +R3
"$pack" "$out" "$here/$world"
