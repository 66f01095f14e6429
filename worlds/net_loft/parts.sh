# SPDX-License-Identifier: GPL-3.0-or-later
# What is rendered of this view, in all directions; sourced by render.sh.
sphere=(+W4800 +H2400)
render base 0 0 "${sphere[@]}" +A0.2 +AM1 +R2 +WT2
render depth 8 0 "${sphere[@]}" -A
for n in 0 1; do render "sail_$n" 3 "$n" "${sphere[@]}" +UA +A0.05 +AM1 +R3; done
render view_mask 6 0 "${sphere[@]}" +A0.05 +AM1 +R2 +WT2
