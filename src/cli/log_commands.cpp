// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/atomic_file.h"
#include "cli/more_commands.h"
#include "cli/say.h"
#include "logbook/export.h"
#include "logbook/store.h"

#include <algorithm>
#include <charconv>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ml::cli {
using nlohmann::json;
namespace fs = std::filesystem;
namespace {

void warn(const std::vector<std::string>& problems) {
  for (const auto& problem : problems) std::fprintf(stderr, "%s\n", problem.c_str());
}

/// Opened; one that is new or was damaged is made from the jobs first.
Result<Logbook> opened(const LogArguments& a, const Progress& progress) {
  auto book = Logbook::open(a.logbook.empty() ? logbookFile(jobsIn(a.jobs)) : fs::path(a.logbook));
  if (!book || !book->isNew()) return book;
  const auto problems = book->rebuild({jobsIn(a.jobs)}, progress);
  if (!problems) return passOn(problems.error());
  warn(*problems);
  return book;
}

LogQuery queryOf(const LogArguments& a) {
  LogQuery query;
  query.words = a.words;
  query.tag = a.tag;
  query.kind = a.kind;
  query.year = a.year;
  query.withFaults = a.withFaults;
  query.limit = std::clamp(a.limit, 1, 1000000);
  return query;
}

json rowJson(const LogRow& row) {
  return {{"id", row.id},
          {"folder", row.folder},
          {"name", row.name},
          {"place", row.place},
          {"date", row.date},
          {"lesson", row.lesson},
          {"tags", row.tags},
          {"views", row.views},
          {"frames", row.frames},
          {"repeats", row.repeats},
          {"faults", row.faults},
          {"delivered", row.delivered},
          {"seconds_on_site", row.siteSeconds},
          {"seconds_at_the_desk", row.deskSeconds}};
}

/// By number or by folder.
Result<LogEntry> entryNamed(const Logbook& book, const std::string& visit) {
  std::int64_t id = 0;
  const auto [end, error] = std::from_chars(visit.data(), visit.data() + visit.size(), id);
  if (error == std::errc() && end == visit.data() + visit.size()) return book.entry(id);
  std::error_code ignored;
  const std::string folder = fs::weakly_canonical(visit, ignored).string();
  LogQuery all;
  all.limit = 1000000;
  const auto rows = book.search(all);
  if (!rows) return passOn(rows.error());
  for (const auto& row : *rows)
    if (row.folder == folder || row.folder == visit) return book.entry(row.id);
  return fail(ErrorCode::InvalidArgument,
              "There is no visit \"" + visit + "\" in the logbook; `log list` names them all.");
}

Result<std::vector<LogEntry>> entriesOf(const Logbook& book, const LogQuery& query) {
  const auto rows = book.search(query);
  if (!rows) return passOn(rows.error());
  std::vector<LogEntry> out;
  for (const auto& row : *rows) {
    auto entry = book.entry(row.id);
    if (!entry) return passOn(entry.error());
    out.push_back(std::move(*entry));
  }
  return out;
}

json learntJson(const Learnt& lesson) {
  json cases = json::array();
  for (const auto& from : lesson.cases)
    cases.push_back({{"visit", from.visit}, {"view", from.view}, {"name", from.name}, {"date", from.date}});
  return {{"id", lesson.id}, {"sentence", lesson.sentence}, {"cases", cases}};
}

} // namespace

int runLogList(const LogArguments& a, const Progress& progress) {
  const auto book = opened(a, progress);
  if (!book) return refuse(book.error());
  const auto rows = book->search(queryOf(a));
  if (!rows) return refuse(rows.error());
  if (a.json) {
    json list = json::array();
    for (const auto& row : *rows) list.push_back(rowJson(row));
    say(json{{"version", 1}, {"visits", list}}.dump(2));
    return kDone;
  }
  for (const auto& row : *rows)
    std::printf("%6lld  %s  %s%s  %d views, %d frames%s%s\n", static_cast<long long>(row.id), row.date.c_str(),
                row.name.c_str(), row.place.empty() ? "" : (", " + row.place).c_str(), row.views, row.frames,
                row.repeats > 0 ? fmt::format(", {} shot again", row.repeats).c_str() : "",
                row.faults > 0 ? fmt::format(", {} faults", row.faults).c_str() : "");
  if (rows->empty()) say("No visit is in the logbook that fits.");
  return kDone;
}

int runLogShow(const LogArguments& a, const Progress& progress) {
  const auto book = opened(a, progress);
  if (!book) return refuse(book.error());
  const auto entry = entryNamed(*book, a.visit);
  if (!entry) return refuse(entry.error());
  say(a.json ? toJson(*entry).dump(2) : toMarkdown({*entry}));
  return kDone;
}

int runLogStats(const LogArguments& a, const Progress& progress) {
  const auto book = opened(a, progress);
  if (!book) return refuse(book.error());
  const auto cases = book->cases();
  if (!cases) return refuse(cases.error());
  const auto lessons = learntFrom(*cases);
  if (a.json) {
    json list = json::array();
    for (const auto& lesson : lessons) list.push_back(learntJson(lesson));
    say(json{{"version", 1}, {"views", cases->views.size()}, {"learnt", list}}.dump(2));
    return kDone;
  }
  for (const auto& lesson : lessons) say(lesson.sentence);
  if (lessons.empty())
    say(fmt::format("Nothing is learnt yet: no figure has ten cases ({} views are in the logbook).",
                    cases->views.size()));
  return kDone;
}

int runLogExport(const LogArguments& a, const Progress& progress) {
  if (a.format != "csv" && a.format != "json" && a.format != "markdown")
    return wrongUse("--format takes csv, json or markdown, not \"" + a.format + "\".");
  const auto book = opened(a, progress);
  if (!book) return refuse(book.error());
  auto query = queryOf(a);
  query.order = LogOrder::Oldest;
  const auto entries = entriesOf(*book, query);
  if (!entries) return refuse(entries.error());
  const std::string text = a.format == "csv"    ? toCsv(*entries)
                           : a.format == "json" ? toJsonText(*entries)
                                                : toMarkdown(*entries);
  if (a.out.empty()) {
    std::fwrite(text.data(), 1, text.size(), stdout);
    return kDone;
  }
  if (auto written = writeTextAtomically(a.out, text); !written) return refuse(written.error());
  return kDone;
}

int runLogRebuild(const LogArguments& a, const Progress& progress) {
  auto book = Logbook::open(a.logbook.empty() ? logbookFile(jobsIn(a.jobs)) : fs::path(a.logbook));
  if (!book) return refuse(book.error());
  std::vector<fs::path> roots{jobsIn(a.jobs)};
  roots.insert(roots.end(), a.folders.begin(), a.folders.end());
  const auto problems = book->rebuild(roots, progress);
  if (!problems) return refuse(problems.error());
  warn(*problems);
  say(fmt::format("{} visits are in the logbook.", book->count().value_or(0)));
  return problems->empty() ? kDone : kSetLeftOut;
}

} // namespace ml::cli
