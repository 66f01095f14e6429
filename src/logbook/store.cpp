// SPDX-License-Identifier: GPL-3.0-or-later
#include "logbook/store.h"

#include <QFile>
#include <QSqlDatabase>
#include <QSqlError>
#include <QSqlQuery>
#include <QUrl>
#include <QVariant>
#include <algorithm>
#include <atomic>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <set>
#include <unistd.h>
#include <utility>

namespace ml {
namespace fs = std::filesystem;
using nlohmann::json;
namespace {

constexpr int kSchema = 1; ///< Of the tables; another one is built anew from the jobs.

const char* const kTables[] = {
    "CREATE TABLE visits (id INTEGER PRIMARY KEY, folder TEXT NOT NULL UNIQUE, name TEXT, place TEXT, date TEXT, "
    "lesson "
    "TEXT, tags TEXT, views INTEGER, frames INTEGER, repeats INTEGER, faults INTEGER, delivered INTEGER, site REAL, "
    "desk "
    "REAL, entry TEXT)",
    "CREATE INDEX visits_date ON visits (date)",
    "CREATE TABLE tags (visit INTEGER, tag TEXT)",
    "CREATE INDEX tags_tag ON tags (tag, visit)",
    "CREATE INDEX tags_visit ON tags (visit)",
    "CREATE TABLE views (visit INTEGER, folder TEXT, name TEXT, date TEXT, kind TEXT, site REAL, desk REAL, sets "
    "INTEGER, "
    "range REAL, combined_of INTEGER, spoke INTEGER, checked INTEGER, offsets TEXT)",
    "CREATE INDEX views_visit ON views (visit)",
    "CREATE INDEX views_kind ON views (kind, visit)",
    "CREATE TABLE hand (visit INTEGER, view TEXT, name TEXT, date TEXT, stops REAL, sharp INTEGER)",
    "CREATE INDEX hand_visit ON hand (visit)",
    "CREATE TABLE faults (visit INTEGER, view TEXT, name TEXT, date TEXT, kind TEXT, hour INTEGER)",
    "CREATE INDEX faults_visit ON faults (visit)",
    "CREATE VIRTUAL TABLE words USING fts5 (text, tokenize = \"unicode61 remove_diacritics 2\", prefix = '2 3')",
    "PRAGMA user_version = 1"};

QString q(const std::string& text) {
  return QString::fromStdString(text);
}
std::string s(const QVariant& value) {
  return value.toString().toStdString();
}

bool isDamage(const QSqlError& error) {
  const QString code = error.nativeErrorCode(); // SQLITE_CORRUPT, SQLITE_NOTADB
  return code == "11" || code == "26" || error.databaseText().contains("malformed") ||
         error.databaseText().contains("not a database");
}

Error errorOf(const QSqlError& error) {
  const QString code = error.nativeErrorCode();
  if (isDamage(error))
    return {ErrorCode::FileUnreadable,
            "The logbook is damaged; it is made again from the jobs when it is opened next."};
  if (code == "5" || code == "6") // SQLITE_BUSY, SQLITE_LOCKED
    return {ErrorCode::CannotWrite,
            "The logbook is being written by another window; this is written when the job changes next."};
  if (code == "8") // SQLITE_READONLY
    return {ErrorCode::CannotWrite, "The logbook cannot be written where it lies; give its folder write permission."};
  return {ErrorCode::CannotWrite, "The logbook refuses (" + error.text().toStdString() +
                                      "); is there room on the disk? The jobs themselves are untouched."};
}

/// A statement with its values in order.
Result<QSqlQuery> run(const QString& connection, const QString& statement, const QVariantList& values = {}) {
  QSqlQuery query(QSqlDatabase::database(connection));
  query.setForwardOnly(true);
  bool good = query.prepare(statement);
  for (const auto& value : values) query.addBindValue(value);
  good = good && query.exec();
  if (!good) return passOn(errorOf(query.lastError()));
  return query;
}

/// Of the tables in it; 0: none yet.
Result<int> schemaOf(const QString& connection) {
  auto row = run(connection, "PRAGMA user_version");
  if (!row) return passOn(row.error());
  return row->next() ? row->value(0).toInt() : 0;
}

/// Several words as full-text search has them, each the beginning of one.
QString asked(const std::string& words) {
  QStringList out;
  for (const QString& word : q(words).split(QChar(' '), Qt::SkipEmptyParts)) {
    QString plain = word;
    plain.replace('"', QString("\"\""));
    out << '"' + plain + "\"*";
  }
  return out.join(' ');
}

LogRow rowOf(const QSqlQuery& query) {
  LogRow row;
  row.id = query.value(0).toLongLong();
  row.folder = s(query.value(1));
  row.name = s(query.value(2));
  row.place = s(query.value(3));
  row.date = s(query.value(4));
  row.lesson = s(query.value(5));
  for (const auto& tag : json::parse(s(query.value(6)), nullptr, false))
    if (tag.is_string()) row.tags.push_back(tag.get<std::string>());
  row.views = query.value(7).toInt();
  row.frames = query.value(8).toInt();
  row.repeats = query.value(9).toInt();
  row.faults = query.value(10).toInt();
  row.delivered = query.value(11).toInt();
  row.siteSeconds = query.value(12).toDouble();
  row.deskSeconds = query.value(13).toDouble();
  return row;
}

LogRow totals(const LogEntry& entry) {
  LogRow row;
  row.views = int(entry.views.size());
  for (const auto& view : entry.views) {
    row.frames += view.fired;
    row.repeats += view.repeats;
    row.faults += int(view.faults.size());
    row.delivered += int(view.delivered.size());
    row.siteSeconds += view.siteSeconds();
    row.deskSeconds += view.deskSeconds();
  }
  return row;
}

void setAside(const fs::path& file) {
  std::error_code ignored;
  fs::path kept = file.string() + ".damaged";
  fs::rename(file, kept, ignored);
  for (const char* ending : {"-wal", "-shm"}) fs::remove(file.string() + ending, ignored);
}

LogCase caseOf(const QSqlQuery& query) {
  return {query.value(0).toLongLong(), s(query.value(1)), s(query.value(2)), s(query.value(3))};
}

} // namespace

fs::path logbookFile(const fs::path& jobs) {
  return jobs.parent_path() / "logbook.sqlite";
}

Result<Logbook> Logbook::open(const fs::path& file) {
  std::error_code error;
  fs::create_directories(file.parent_path(), error);
  for (const bool again : {false, true}) {
    Logbook book;
    const auto ready = book.prepare(file);
    if (ready) {
      book.isNew_ = book.isNew_ || again;
      return book;
    }
    if (again || ready.error().code != ErrorCode::FileUnreadable) return passOn(ready.error());
    book = Logbook(); // lets go of the file
    setAside(file);
  }
  return fail(ErrorCode::CannotWrite, "The logbook `" + file.string() + "` cannot be opened.");
}

Logbook::Logbook(Logbook&& other) noexcept
    : connection_(std::exchange(other.connection_, QString())), readOnly_(other.readOnly_), isNew_(other.isNew_) {}

Logbook& Logbook::operator=(Logbook&& other) noexcept {
  std::swap(connection_, other.connection_);
  readOnly_ = other.readOnly_;
  isNew_ = other.isNew_;
  return *this;
}

Logbook::~Logbook() {
  if (connection_.isEmpty()) return;
  QSqlDatabase::database(connection_, false).close();
  QSqlDatabase::removeDatabase(connection_);
}

Result<void> Logbook::prepare(const fs::path& file) {
  static std::atomic<int> number{0};
  std::error_code error;
  const bool there = fs::exists(file, error);
  const auto writable = QFileDevice::WriteOwner | QFileDevice::WriteGroup | QFileDevice::WriteOther;
  readOnly_ = there && (!(QFile::permissions(q(file.string())) & writable) || access(file.c_str(), W_OK) != 0 ||
                        access(file.parent_path().c_str(), W_OK) != 0);
  connection_ = QString("logbook-%1").arg(++number);
  {
    QSqlDatabase database = QSqlDatabase::addDatabase("QSQLITE", connection_);
    if (!database.isValid())
      return fail(ErrorCode::CannotWrite,
                  "The logbook needs Qt's driver for SQLite; install the package libqt6sql6-sqlite.");
    const QString wait = QString("QSQLITE_BUSY_TIMEOUT=%1").arg(kWaitMs);
    if (readOnly_ && !fs::exists(file.string() + "-wal", error)) { // else it asks to write beside it, only to read
      database.setDatabaseName("file:" + QString(QUrl::toPercentEncoding(q(file.string()), "/")) + "?immutable=1");
      database.setConnectOptions(wait + ";QSQLITE_OPEN_READONLY;QSQLITE_OPEN_URI");
    } else {
      database.setDatabaseName(q(file.string()));
      database.setConnectOptions(readOnly_ ? wait + ";QSQLITE_OPEN_READONLY" : wait);
    }
    if (!database.open()) return passOn(errorOf(database.lastError()));
  }
  const auto schema = schemaOf(connection_);
  if (!schema) return passOn(schema.error());
  if (readOnly_) return {};
  for (const char* pragma : {"PRAGMA journal_mode = WAL", "PRAGMA synchronous = NORMAL"})
    if (auto set = run(connection_, pragma); !set) return passOn(set.error());
  if (*schema == kSchema) return {};
  if (*schema != 0) return fail(ErrorCode::FileUnreadable, "The logbook is of another version.");
  isNew_ = true;
  return inOneStep([this]() -> Result<void> {
    if (const auto now = schemaOf(connection_); !now || *now == kSchema) // another window was faster
      return now ? Result<void>() : passOn(now.error());
    for (const char* table : kTables)
      if (auto made = run(connection_, table); !made) return passOn(made.error());
    return {};
  });
}

/// All of `work` or nothing. Writers wait their turn from the beginning, so that none is refused in the middle.
Result<void> Logbook::inOneStep(const std::function<Result<void>()>& work) {
  if (readOnly_)
    return fail(ErrorCode::CannotWrite,
                "The logbook cannot be written where it lies; give its folder write permission.");
  if (auto begun = run(connection_, "BEGIN IMMEDIATE"); !begun) return passOn(begun.error());
  auto done = work();
  if (done)
    if (auto kept = run(connection_, "COMMIT"); !kept) done = passOn(kept.error());
  if (!done) (void)run(connection_, "ROLLBACK");
  return done;
}

Result<void> Logbook::write(const LogEntry& entry) {
  std::int64_t id = 0;
  {
    auto known = run(connection_, "SELECT id FROM visits WHERE folder = ?", {q(entry.folder)});
    if (!known) return passOn(known.error());
    if (known->next()) id = known->value(0).toLongLong();
  }
  if (id != 0) {
    for (const char* table : {"tags", "views", "hand", "faults"})
      if (auto gone = run(connection_, QString("DELETE FROM %1 WHERE visit = ?").arg(table), {qlonglong(id)}); !gone)
        return passOn(gone.error());
    if (auto gone = run(connection_, "DELETE FROM words WHERE rowid = ?", {qlonglong(id)}); !gone)
      return passOn(gone.error());
  }
  const LogRow sums = totals(entry);
  auto kept = run(connection_, "INSERT OR REPLACE INTO visits VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
                  {id != 0 ? QVariant(qlonglong(id)) : QVariant(QMetaType(QMetaType::LongLong)), q(entry.folder),
                   q(entry.name), q(entry.place), q(entry.date), q(entry.lesson), q(json(entry.tags).dump()),
                   sums.views, sums.frames, sums.repeats, sums.faults, sums.delivered, sums.siteSeconds,
                   sums.deskSeconds, q(toJson(entry).dump(-1, ' ', false, json::error_handler_t::replace))});
  if (!kept) return passOn(kept.error());
  if (id == 0) id = kept->lastInsertId().toLongLong();
  const QVariant visit = qlonglong(id);
  if (auto put = run(connection_, "INSERT INTO words (rowid, text) VALUES (?, ?)", {visit, q(wordsOf(entry))}); !put)
    return passOn(put.error());
  for (const auto& tag : std::set<std::string>(entry.tags.begin(), entry.tags.end()))
    if (auto put = run(connection_, "INSERT INTO tags VALUES (?, ?)", {visit, q(tag)}); !put)
      return passOn(put.error());
  for (const auto& view : entry.views) {
    if (view.practice) continue;
    const QVariantList from{visit, q(view.folder), q(view.name), q(entry.date)};
    const bool checked = !view.answer.empty() || !view.frames.empty();
    auto put = run(connection_, "INSERT INTO views VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
                   from + QVariantList{q(view.kind), view.siteSeconds() / 60, view.deskSeconds() / 60, view.sets,
                                       view.hasRange ? view.range() : -1.0, view.combinedOf, view.spoke, checked,
                                       q(json(view.offsets).dump())});
    if (!put) return passOn(put.error());
    for (const auto& frame : view.frames) {
      if (!frame.handHeld || !(frame.seconds > 0 && frame.focal35 > 0)) continue;
      const bool soft = std::find(frame.flaws.begin(), frame.flaws.end(), "soft") != frame.flaws.end();
      if (auto row = run(connection_, "INSERT INTO hand VALUES (?, ?, ?, ?, ?, ?)",
                         from + QVariantList{handStops(frame.seconds, frame.focal35), !soft});
          !row)
        return passOn(row.error());
    }
    for (const auto& fault : view.faults)
      if (auto row = run(connection_, "INSERT INTO faults VALUES (?, ?, ?, ?, ?, ?)",
                         from + QVariantList{q(fault.kind), fault.hour});
          !row)
        return passOn(row.error());
  }
  return {};
}

Result<void> Logbook::put(const LogEntry& entry) {
  return inOneStep([&] { return write(entry); });
}

Result<void> Logbook::put(const std::vector<LogEntry>& entries) {
  return inOneStep([&]() -> Result<void> {
    for (const auto& entry : entries)
      if (auto put = write(entry); !put) return put;
    return {};
  });
}

Result<std::vector<std::string>> Logbook::rebuild(const std::vector<fs::path>& roots, const Progress& progress) {
  std::set<fs::path> folders;
  std::error_code error;
  for (const auto& root : roots)
    for (auto it = fs::directory_iterator(root, error); !error && it != fs::directory_iterator(); it.increment(error))
      if (std::error_code inside; fs::exists(it->path() / "job.json", inside))
        folders.insert(fs::weakly_canonical(it->path(), inside));
  {
    auto known = run(connection_, "SELECT folder FROM visits");
    if (!known) return passOn(known.error());
    while (known->next())
      if (const fs::path folder = s(known->value(0)); fs::exists(folder / "job.json", error)) folders.insert(folder);
  }
  std::vector<LogEntry> entries;
  std::vector<std::string> problems;
  std::size_t done = 0;
  for (const auto& folder : folders) {
    if (progress.stopRequested()) return stopped();
    progress.at("Reading visits", double(done++) / double(folders.size()));
    if (auto entry = entryOf(folder))
      entries.push_back(std::move(*entry));
    else
      problems.push_back(entry.error().message);
  }
  if (auto put = this->put(entries); !put) return passOn(put.error());
  return problems;
}

Result<std::vector<LogRow>> Logbook::search(const LogQuery& query) const {
  QString where = "1";
  QVariantList values;
  if (const QString words = asked(query.words); !words.isEmpty()) {
    where += " AND id IN (SELECT rowid FROM words WHERE words MATCH ?)";
    values << words;
  }
  if (!query.tag.empty()) {
    where += " AND id IN (SELECT visit FROM tags WHERE tag = ?)";
    values << q(query.tag);
  }
  if (!query.kind.empty()) {
    where += " AND id IN (SELECT visit FROM views WHERE kind = ?)";
    values << q(query.kind);
  }
  if (!query.year.empty()) {
    where += " AND date >= ? AND date < ?";
    values << q(query.year) << q(query.year) + "-99";
  }
  if (query.withFaults) where += " AND faults > 0";
  static constexpr const char* kOrders[] = {"date DESC, id DESC", "date, id", "name COLLATE NOCASE, date",
                                            "site + desk DESC"};
  values << query.limit;
  auto rows =
      run(connection_,
          QString("SELECT id, folder, name, place, date, lesson, tags, views, frames, repeats, faults, delivered, "
                  "site, desk FROM visits WHERE %1 ORDER BY %2 LIMIT ?")
              .arg(where, kOrders[std::size_t(query.order)]),
          values);
  if (!rows) return passOn(rows.error());
  std::vector<LogRow> out;
  while (rows->next()) out.push_back(rowOf(*rows));
  return out;
}

Result<LogEntry> Logbook::entry(std::int64_t id) const {
  auto row = run(connection_, "SELECT entry FROM visits WHERE id = ?", {qlonglong(id)});
  if (!row) return passOn(row.error());
  if (!row->next())
    return fail(ErrorCode::InvalidArgument,
                fmt::format("There is no visit number {} in the logbook; list them first.", id));
  return entryFromJson(json::parse(s(row->value(0)), nullptr, false));
}

namespace {

Result<std::vector<std::string>> column(const QString& connection, const QString& statement) {
  auto rows = run(connection, statement);
  if (!rows) return passOn(rows.error());
  std::vector<std::string> out;
  while (rows->next()) out.push_back(s(rows->value(0)));
  return out;
}

} // namespace

Result<std::vector<std::string>> Logbook::tags() const {
  return column(connection_, "SELECT DISTINCT tag FROM tags ORDER BY tag");
}

Result<std::vector<std::string>> Logbook::years() const {
  return column(connection_, "SELECT DISTINCT substr(date, 1, 4) FROM visits WHERE date <> '' ORDER BY 1 DESC");
}

Result<int> Logbook::count() const {
  auto row = run(connection_, "SELECT count(*) FROM visits");
  if (!row) return passOn(row.error());
  return row->next() ? row->value(0).toInt() : 0;
}

Result<LogCases> Logbook::cases() const {
  LogCases out;
  auto views = run(connection_, "SELECT visit, folder, name, date, kind, site, desk, sets, range, combined_of, spoke, "
                                "checked, offsets FROM views ORDER BY date, visit");
  if (!views) return passOn(views.error());
  while (views->next()) {
    LogCases::View view{caseOf(*views),
                        s(views->value(4)),
                        views->value(5).toDouble(),
                        views->value(6).toDouble(),
                        views->value(7).toInt(),
                        views->value(8).toDouble(),
                        views->value(9).toInt(),
                        views->value(10).toInt(),
                        views->value(11).toBool(),
                        {}};
    const json offsets = json::parse(s(views->value(12)), nullptr, false);
    if (offsets.is_object())
      for (const auto& [control, by] : offsets.items())
        if (by.is_number()) view.offsets[control] = by.get<double>();
    out.views.push_back(std::move(view));
  }
  auto hand = run(connection_, "SELECT visit, view, name, date, stops, sharp FROM hand ORDER BY date, visit");
  if (!hand) return passOn(hand.error());
  while (hand->next()) out.hand.push_back({caseOf(*hand), {hand->value(4).toDouble(), hand->value(5).toBool()}});
  auto faults = run(connection_, "SELECT visit, view, name, date, kind, hour FROM faults ORDER BY date, visit");
  if (!faults) return passOn(faults.error());
  while (faults->next()) out.faults.push_back({caseOf(*faults), s(faults->value(4)), faults->value(5).toInt()});
  return out;
}

} // namespace ml
