# SPDX-License-Identifier: GPL-3.0-or-later
# What is rendered of this view; sourced by render.sh.
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
