// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/logbook_model.h"

#include "base/atomic_file.h"
#include "logbook/export.h"
#include "visit/visit_file.h"

#include <algorithm>
#include <map>

namespace ml {
namespace fs = std::filesystem;

LogbookModel::LogbookModel(Desk& desk) : desk_(desk) {
  timer_.setSingleShot(true);
  timer_.setInterval(kWriteWithinMs);
  connect(&timer_, &QTimer::timeout, this, &LogbookModel::writeDown);
  const auto soon = [this] {
    dirty_ = true;
    if (!timer_.isActive()) timer_.start();
  };
  connect(&desk_.job, &JobModel::viewChanged, this, soon);
  connect(&desk_.job, &JobModel::viewsChanged, this, soon);
  connect(&desk_.job, &JobModel::jobOpened, this, soon);
  connect(&desk_.job, &JobModel::closing, this, [this] { // nobody waits for it
    timer_.stop();
    if (dirty_) writeDown();
  });
}

LogbookModel::~LogbookModel() {
  flush();
}

bool LogbookModel::writesDown() const {
  if (!desk_.job.isOpen()) return false;
  const auto inside = desk_.job.job().folder().lexically_relative(practice_);
  return practice_.empty() || inside.empty() || *inside.begin() == "..";
}

void LogbookModel::onBook(Lane& lane, std::function<std::function<void()>(Logbook&, const Progress&)> work) {
  lane.start([this, work = std::move(work)](const Progress& progress) -> std::function<void()> {
    auto book = Logbook::open(logbookFile(desk_.jobsFolder));
    if (!book) return [this, e = book.error()] { desk_.notices.fail(e); };
    std::vector<std::string> problems;
    if (book->isNew()) {
      const auto read = book->rebuild({desk_.jobsFolder}, progress);
      if (!read)
        return [this, e = read.error()] {
          if (e.code != ErrorCode::Stopped) desk_.notices.fail(e);
        };
      problems = *read;
    }
    auto apply = work(*book, progress);
    return [this, apply, problems] {
      if (!problems.empty()) desk_.notices.tell(QString::fromStdString(problems.front()));
      if (apply) apply();
    };
  });
}

void LogbookModel::open() {
  if (std::exchange(opened_, true)) return;
  readAll();
}

/// What was searched, and everything that is counted.
void LogbookModel::readAll() {
  struct Read {
    std::vector<LogRow> rows;
    LogCases cases;
    std::vector<Learnt> lessons;
    std::vector<std::string> tags, years;
  };
  onBook(desk_.works.reading, [this, query = query_](Logbook& book, const Progress&) -> std::function<void()> {
    auto read = std::make_shared<Read>();
    const auto rows = book.search(query);
    const auto cases = book.cases();
    if (!rows || !cases) return [this, e = rows ? cases.error() : rows.error()] { desk_.notices.fail(e); };
    read->rows = *rows;
    read->cases = *cases;
    read->lessons = learntFrom(*cases);
    read->tags = book.tags().value_or(std::vector<std::string>{});
    read->years = book.years().value_or(std::vector<std::string>{});
    return [this, read] {
      rows_ = std::move(read->rows);
      cases_ = std::move(read->cases);
      lessons_ = std::move(read->lessons);
      tags_ = std::move(read->tags);
      years_ = std::move(read->years);
      emit learnt();
      emit changed();
    };
  });
}

void LogbookModel::search(const LogQuery& query) {
  query_ = query;
  onBook(desk_.works.searching, [this, query](Logbook& book, const Progress&) -> std::function<void()> {
    auto rows = book.search(query);
    if (!rows) return [this, e = rows.error()] { desk_.notices.fail(e); };
    return [this, found = std::move(*rows)] {
      rows_ = found;
      emit changed();
    };
  });
}

void LogbookModel::show(std::int64_t id) {
  onBook(desk_.works.searching, [this, id](Logbook& book, const Progress&) -> std::function<void()> {
    auto entry = book.entry(id);
    if (!entry) return [this, e = entry.error()] { desk_.notices.fail(e); };
    return [this, id, found = std::move(*entry)] {
      entry_ = found;
      entryId_ = id;
      emit changed();
    };
  });
}

void LogbookModel::rebuild() {
  onBook(desk_.works.reading, [this](Logbook& book, const Progress& progress) -> std::function<void()> {
    const auto problems = book.rebuild({desk_.jobsFolder}, progress);
    if (!problems) return [this, e = problems.error()] { desk_.notices.fail(e); };
    return [this, problems = *problems] {
      if (!problems.empty()) desk_.notices.tell(QString::fromStdString(problems.front()));
      readAll();
    };
  });
  emit changed();
}

namespace {

Result<std::vector<LogEntry>> entriesOf(const Logbook& book, LogQuery query) {
  constexpr int kAll = 1000000;
  query.limit = kAll;
  query.order = LogOrder::Oldest;
  const auto rows = book.search(query);
  if (!rows) return passOn(rows.error());
  std::vector<LogEntry> out;
  for (const auto& row : *rows)
    if (auto entry = book.entry(row.id)) out.push_back(std::move(*entry));
  return out;
}

} // namespace

void LogbookModel::exportTo(const QString& file, const QString& format) {
  onBook(desk_.works.reading,
         [this, file, format, query = query_](Logbook& book, const Progress&) -> std::function<void()> {
           const auto entries = entriesOf(book, query);
           if (!entries) return [this, e = entries.error()] { desk_.notices.fail(e); };
           const std::string text = format == "csv"    ? toCsv(*entries)
                                    : format == "json" ? toJsonText(*entries)
                                                       : toMarkdown(*entries);
           const auto written = writeTextAtomically(file.toStdString(), text);
           return [this, written, file, count = entries->size()] {
             if (desk_.notices.check(written))
               desk_.notices.tell((count == 1 ? tr("One visit is in %1.").arg(file)
                                              : tr("%1 visits are in %2.").arg(count).arg(file)));
             emit changed();
           };
         });
}

void LogbookModel::keepWords(const std::string& folder, const std::vector<std::string>& tags, const std::string& lesson,
                             VisitModel& visit) {
  std::error_code error;
  if (desk_.job.isOpen() && fs::weakly_canonical(desk_.job.job().folder(), error) == fs::path(folder)) {
    visit.change(tr("tags and lesson"), [&](Visit& v) {
      v.tags = tags;
      v.lesson = lesson;
    });
    visit.flush();
  } else {
    auto kept = readVisit(folder);
    if (!kept) return desk_.notices.fail(kept.error());
    if (!*kept) { // a job that was never planned as a visit: its entry says the rest
      *kept = Visit();
      (*kept)->name = entry_ ? entry_->name : std::string();
      if (entry_)
        if (const auto date = parseDate(entry_->date)) (*kept)->date = *date;
      (*kept)->place.timeZone = "UTC";
    }
    (*kept)->tags = tags;
    (*kept)->lesson = lesson;
    if (!desk_.notices.check(writeVisit(folder, **kept))) return;
  }
  onBook(desk_.works.logging, [this, folder](Logbook& book, const Progress&) -> std::function<void()> {
    auto entry = entryOf(fs::path(folder));
    const auto put = entry ? book.put(*entry) : Result<void>(passOn(entry.error()));
    return [this, put, entry] {
      if (!desk_.notices.check(put)) return;
      entry_ = *entry;
      readAll();
    };
  });
}

bool LogbookModel::keepOwnStart(const QString& name) {
  const auto start = ownStart(cases_);
  if (start.empty()) {
    desk_.notices.tell(tr("No starting point was learnt yet: it needs ten finishes that were moved."));
    return false;
  }
  Recipe recipe;
  ToneSettings& tone = recipe.tone;
  const std::map<std::string, double*> controls{{"exposure", &tone.exposure},
                                                {"balance", &tone.balance},
                                                {"detail", &tone.detail},
                                                {"form", &tone.form},
                                                {"saturation", &tone.saturation},
                                                {"vivid", &tone.vivid},
                                                {"warmth", &tone.warmth},
                                                {"tint", &tone.tint},
                                                {"veil", &tone.veil},
                                                {"denoise", &recipe.denoise},
                                                {"sharpening", &recipe.sharpening}};
  for (const auto& [control, by] : start)
    if (const auto it = controls.find(control); it != controls.end()) *it->second += by;
  if (!desk_.notices.check(desk_.looks.save(name.toStdString(), recipe))) return false;
  desk_.notices.tell(tr("Your starting point \"%1\" stands among the looks at Finish.").arg(name));
  return true;
}

void LogbookModel::readYear(const QString& year) {
  LogQuery query;
  query.year = year.toStdString();
  onBook(desk_.works.reading, [this, query](Logbook& book, const Progress&) -> std::function<void()> {
    auto entries = entriesOf(book, query);
    if (!entries) return [this, e = entries.error()] { desk_.notices.fail(e); };
    return [this, found = std::move(*entries)] { emit yearRead(found); };
  });
}

void LogbookModel::writeDown() {
  if (!writesDown()) {
    dirty_ = false;
    return;
  }
  if (desk_.works.logging.running()) return timer_.start();
  dirty_ = false;
  onBook(desk_.works.logging, [this, job = desk_.job.job()](Logbook& book, const Progress&) -> std::function<void()> {
    const auto visit = readVisit(job.folder());
    const auto put = book.put(entryOf(job, visit ? *visit : std::nullopt));
    return [this, put] {
      if (!desk_.notices.check(put)) dirty_ = true;
      if (opened_) readAll();
    };
  });
}

void LogbookModel::flush() {
  timer_.stop();
  desk_.works.logging.wait();
  if (!dirty_ || !writesDown()) return;
  writeDown();
  desk_.works.logging.wait();
}

bool LogbookModel::busy() const {
  return desk_.works.reading.running() || desk_.works.searching.running();
}

QString LogbookModel::verdict() const {
  if (desk_.works.reading.running() && rows_.empty()) return tr("The logbook is being read.");
  if (rows_.empty())
    return query_.words.empty() && query_.tag.empty() && query_.year.empty() && !query_.withFaults
               ? tr("Nothing is written down yet: every job you work on is, by itself.")
               : tr("No visit fits what is looked for.");
  std::size_t views = 0;
  double minutes = 0;
  for (const auto& row : rows_) {
    views += std::size_t(row.views);
    minutes += (row.siteSeconds + row.deskSeconds) / 60;
  }
  return tr("%1 visits, %2 views, %3 hours of work.").arg(rows_.size()).arg(views).arg(minutes / 60, 0, 'f', 1);
}

} // namespace ml
