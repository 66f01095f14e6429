// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/field_card.h"

#include "base/atomic_file.h"
#include "exposure/marks.h"
#include "pipeline/report.h"

#include <QFont>
#include <QPainter>
#include <QPdfWriter>
#include <algorithm>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ml {
namespace fs = std::filesystem;
namespace {

QString text(const std::string& s) {
  return QString::fromStdString(s);
}

/// Sets lines one under another in a column; all sizes in units of the page's width / 1000.
class Sheet {
public:
  Sheet(QPainter& painter, QRectF area, double unit) : p_(painter), area_(area), unit_(unit), y_(area.top()) {}

  void title(const QString& line) { put(line, 34, true, Qt::black, 0); }
  void quiet(const QString& line) { put(line, 17, false, QColor(90, 90, 90), 0); }
  void heading(const QString& line) {
    y_ += 13 * unit_;
    p_.setPen(QPen(QColor(170, 170, 170), 1.2 * unit_));
    p_.drawLine(QPointF(area_.left(), y_), QPointF(area_.right(), y_));
    y_ += 7 * unit_;
    put(line, 20, true, Qt::black, 0);
  }
  void strong(const QString& line) { put(line, 30, true, Qt::black, 0); }
  void line(const QString& l) { put(l, 18, false, Qt::black, 0); }
  void pair(const QString& name, const QString& value) {
    const double keep = y_;
    put(name, 18, false, QColor(90, 90, 90), 0);
    const double after = y_;
    y_ = keep;
    put(value, 18, true, Qt::black, 210);
    y_ = std::max(y_, after);
  }
  void box(const QString& l) {
    const double size = 15 * unit_;
    p_.setPen(QPen(Qt::black, 1.4 * unit_));
    p_.setBrush(Qt::NoBrush);
    p_.drawRect(QRectF(area_.left(), y_ + 5 * unit_, size, size));
    put(l, 18, false, Qt::black, 30);
  }
  [[nodiscard]] double bottom() const { return y_; }

private:
  void put(const QString& l, double size, bool bold, const QColor& colour, double indent) {
    QFont font("Noto Sans");
    font.setPixelSize(std::max(1, int(std::lround(size * unit_))));
    font.setBold(bold);
    p_.setFont(font);
    p_.setPen(colour);
    const QRectF room(area_.left() + indent * unit_, y_, area_.width() - indent * unit_, area_.height());
    QRectF used;
    p_.drawText(room, Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, l, &used);
    y_ += used.height() + 2 * unit_;
  }
  QPainter& p_;
  QRectF area_;
  double unit_, y_;
};

QString times(const Plan& plan) {
  QStringList list;
  for (const auto& frame : plan.frames) list << text(print(frame.time));
  return list.join("   ");
}

/// The card as it is drawn, on paper in one piece.
void draw(QPainter& p, const FieldCard& card, const QRectF& page, double unit) {
  p.fillRect(page, Qt::white);
  Sheet s(p, page.adjusted(45 * unit, 40 * unit, -45 * unit, -30 * unit), unit);
  s.title(text(card.view));
  s.quiet(text(card.job + ", " + card.plan.camera.name));
  s.heading(QObject::tr("The frames"));
  s.strong(times(card.plan));
  s.line(text(verdict(card.plan)));
  if (!card.readings.empty()) {
    QStringList list;
    for (const auto& [name, ev] : card.readings) list << QString("%1 EV %2").arg(text(name)).arg(ev.value, 0, 'f', 1);
    s.quiet(QObject::tr("Read: %1").arg(list.join(", ")));
  }
  s.heading(QObject::tr("On the camera, in this order"));
  for (const auto& setting : cameraSettings(card.plan, card.situation)) s.pair(text(setting.name), text(setting.value));
  const ShotList shots = shotList(card.plan, card.situation);
  s.heading(QObject::tr("Shots"));
  QStringList many;
  for (const auto& [count, what] : {std::pair{shots.rows, QObject::tr("rows")},
                                    {shots.columns, QObject::tr("columns")},
                                    {shots.shifts, QObject::tr("lens shifts")},
                                    {shots.planes, QObject::tr("planes of focus")}})
    if (count > 1) many << QString("%1 %2").arg(count).arg(what);
  s.line(QObject::tr("%1 frames in %2%3; %4 s with timers, %5 MB.")
             .arg(shots.shots.size())
             .arg(shots.sets() == 1 ? QObject::tr("one set") : QObject::tr("%1 sets").arg(shots.sets()))
             .arg(many.isEmpty() ? QString() : " (" + many.join(", ") + ")")
             .arg(shots.time.value, 0, 'f', 0)
             .arg(shots.megabytes, 0, 'f', 0));
  const auto warnings = planWarnings(card.plan, card.situation);
  if (!warnings.empty()) s.heading(QObject::tr("Watch for"));
  for (const auto& w : warnings) s.line(text(w));
  s.heading(QObject::tr("Before the first frame, and after the last"));
  for (const auto& c : checklist(card.plan, card.situation)) s.box(text(c));
  s.heading(QObject::tr("Take care"));
  for (const auto& c : cautions(card.plan, card.situation)) s.line(text(c));
}

} // namespace

Result<void> writeFieldCardPdf(const FieldCard& card, const fs::path& file) {
  return writeAtomically(file, [&](const fs::path& temporary) -> Result<void> {
    QPdfWriter pdf(text(temporary.string()));
    pdf.setResolution(300);
    pdf.setPageSize(QPageSize(QPageSize::A4));
    pdf.setPageMargins(QMarginsF(0, 0, 0, 0));
    pdf.setTitle(text(card.view));
    pdf.setCreator("Mellow Lantern");
    QPainter p;
    if (!p.begin(&pdf))
      return fail(ErrorCode::CannotWrite,
                  "`" + file.string() + "` cannot be written; free some space or choose another folder.");
    const QRectF page(0, 0, pdf.width(), pdf.height());
    draw(p, card, page, page.width() / 1000);
    if (!p.end())
      return fail(ErrorCode::CannotWrite,
                  "`" + file.string() + "` cannot be written; free some space or choose another folder.");
    return {};
  });
}

QImage fieldCardImage(const FieldCard& card) {
  QImage image(1080, 2160, QImage::Format_RGB888);
  QPainter p(&image);
  p.setRenderHint(QPainter::Antialiasing);
  draw(p, card, image.rect(), 1.5); // as large as a phone held at arm's length needs
  return image;
}

Result<std::vector<fs::path>> writeFieldFiles(const FieldCard& card, const fs::path& folder) {
  std::vector<fs::path> files{folder / "field-card.pdf", folder / "field-card.png", folder / "shot-list.csv",
                              folder / "shot-list.json"};
  const ShotList shots = shotList(card.plan, card.situation);
  const auto png = [&](const fs::path& temporary) -> Result<void> {
    if (fieldCardImage(card).save(text(temporary.string()), "PNG")) return {};
    return fail(ErrorCode::CannotWrite,
                "`" + files[1].string() + "` cannot be written; free some space or choose another folder.");
  };
  for (const auto& done :
       {writeFieldCardPdf(card, files[0]), writeAtomically(files[1], png), writeTextAtomically(files[2], toCsv(shots)),
        writeTextAtomically(files[3], toJson(shots).dump(2) + "\n")})
    if (!done) return passOn(done.error());
  return files;
}

} // namespace ml
