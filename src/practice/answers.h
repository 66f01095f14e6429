// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "practice/exercise.h"
#include "practice/scoring.h"

namespace ml {

/// An answer as a file has it; docs/formats.md. Errors: FileUnreadable, InvalidArgument; name `source` and the field.
[[nodiscard]] Result<ExerciseAnswer> answerFromJson(ExerciseKind kind, const std::string& text,
                                                    const std::string& source);
[[nodiscard]] std::string toJson(const ExerciseAnswer& answer);

} // namespace ml
