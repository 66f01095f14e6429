// SPDX-License-Identifier: GPL-3.0-or-later
// What a stranger may send of visits and practice: visits, exercises, answers, entries of a logbook.
#include "logbook/export.h"
#include "practice/answers.h"
#include "visit/calendar.h"
#include "visit/plan_json.h"

#include <nlohmann/json.hpp>
#include <string>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
  const std::string text(reinterpret_cast<const char*>(data), size);
  if (const auto visit = ml::visitFromJson(text, "input")) {
    (void)ml::visitFromJson(ml::toJson(*visit), "again").value();
    constexpr std::size_t kQuick = 2; // more take long to plan, and go the same ways
    if (visit->views.size() <= kQuick)
      if (const auto plan = ml::planVisit(*visit, {})) {
        (void)ml::toCalendar(*visit, *plan, plan->begin);
        (void)ml::toJson(*visit, *plan).dump();
      }
  }
  if (const auto exercise = ml::exerciseFromJson(text, "input"))
    (void)ml::exerciseFromJson(ml::toJson(*exercise), "again").value();
  for (const ml::ExerciseKind kind : ml::exerciseKinds())
    if (const auto answer = ml::answerFromJson(kind, text, "input")) (void)ml::toJson(*answer);
  const auto document = nlohmann::json::parse(text, nullptr, false);
  if (document.is_object()) {
    const auto entry = ml::entryFromJson(document);
    (void)ml::toCsv({entry});
    (void)ml::toMarkdown({entry});
    (void)ml::toJsonText({entry});
    (void)ml::wordsOf(entry);
  }
  return 0;
}
