// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

/// Marks a plain loop to be compiled for wider vectors too; the machine's best is taken when the program starts.
/// Products and sums may be contracted there, so another kind of processor may give other last bits; one machine always
/// gives the same. Not under sanitizers: their start-up runs later.
#if defined(__GNUC__) && !defined(__clang__) && defined(__x86_64__) && !defined(__SANITIZE_ADDRESS__) &&               \
    !defined(__SANITIZE_THREAD__)
#define ML_VECTOR_CLONES __attribute__((target_clones("arch=x86-64-v4", "arch=x86-64-v3", "default")))
#else
#define ML_VECTOR_CLONES
#endif
