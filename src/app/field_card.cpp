// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/field_card.h"

#include "base/atomic_file.h"
#include "base/phrase.h"
#include "exposure/marks.h"
#include "pipeline/report.h"

#include <QFont>
#include <QPainter>
#include <QPdfWriter>
#include <algorithm>
#include <fmt/format.h>
#include <functional>
#include <nlohmann/json.hpp>
#include <numeric>

namespace ml {
namespace fs = std::filesystem;
namespace {

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
  void goTo(double y) { y_ = y; }

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

QRectF fitted(const QRectF& box, const QSizeF& size) {
  const QSizeF s = size.scaled(box.size(), Qt::KeepAspectRatio);
  return {QPointF(box.left() + (box.width() - s.width()) / 2, box.top()), s};
}

void setFont(QPainter& p, double pixels, bool bold) {
  QFont font("Noto Sans");
  font.setPixelSize(std::max(1, int(std::lround(pixels))));
  font.setBold(bold);
  p.setFont(font);
}

/// The picture with its spots, numbered as on the Ladder beside it.
double drawPicture(QPainter& p, const FieldCard& card, const QRectF& box, double unit) {
  if (card.picture.isNull()) return box.top();
  const QRectF r = fitted(box, QSizeF(card.picture.size()));
  p.drawImage(r, card.picture);
  setFont(p, 17 * unit, true);
  int number = 0;
  for (const auto& reading : card.readings) {
    ++number;
    if (!reading.x) continue;
    const QPointF at(r.left() + *reading.x * r.width(), r.top() + *reading.y * r.height());
    const double size = 15 * unit;
    p.setPen(QPen(Qt::black, 2 * unit));
    p.setBrush(Qt::white);
    p.drawEllipse(at, size, size);
    p.setPen(Qt::black);
    p.drawText(QRectF(at.x() - size, at.y() - size, 2 * size, 2 * size), Qt::AlignCenter, QString::number(number));
  }
  return r.bottom();
}

struct CardLane {
  double left, right, bottom;
};

/// Readings as lines, named at their right in the order of their light, with the numbers they have in the picture.
void drawReadings(QPainter& p, const LadderData& d, const std::function<double(double)>& yOf, const CardLane& lane,
                  double unit) {
  std::vector<std::size_t> order(d.pins.size());
  std::iota(order.begin(), order.end(), std::size_t(0));
  std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return d.pins[a].ev > d.pins[b].ev; });
  double last = -1e9;
  for (std::size_t k = 0; k < order.size(); ++k) {
    const auto& pin = d.pins[order[k]];
    const double line = 26 * unit, below = double(order.size() - 1 - k) * line, y = yOf(pin.ev),
                 at = std::min(std::max(y - line / 2, last + line), lane.bottom - below - line / 2);
    last = at;
    p.setPen(QPen(Qt::black, 2 * unit, pin.keepTexture ? Qt::SolidLine : Qt::DotLine));
    p.drawLine(QPointF(lane.left, y), QPointF(lane.right, y));
    setFont(p, 16 * unit, true);
    p.drawText(
        QRectF(lane.right + 8 * unit, at, 142 * unit, line), Qt::AlignLeft | Qt::AlignVCenter,
        p.fontMetrics().elidedText(QString("%1 %2").arg(order[k] + 1).arg(pin.label), Qt::ElideRight, int(140 * unit)));
  }
}

/// The scene and the frames on one scale of stops, in black on white: read at a glance, printed without colour.
void drawLadder(QPainter& p, const FieldCard& card, const QRectF& box, double unit) {
  const LadderData& d = card.ladder;
  if (d.columns.empty()) return;
  double low = d.columns.front().floor, high = d.columns.front().clip;
  for (const auto& c : d.columns) low = std::min(low, c.floor), high = std::max(high, c.clip);
  for (const auto& pin : d.pins) low = std::min(low, pin.ev - 0.5), high = std::max(high, pin.ev + 0.5);
  const double axis = box.left() + 44 * unit, names = box.right() - 150 * unit;
  const auto yOf = [&](double ev) { return box.top() + (high - ev) / std::max(1.0, high - low) * box.height(); };
  setFont(p, 15 * unit, false);
  for (int ev = int(std::ceil(low)); ev <= int(high); ++ev) {
    p.setPen(QPen(QColor(205, 205, 205), unit));
    p.drawLine(QPointF(axis, yOf(ev)), QPointF(names, yOf(ev)));
    if (ev % 2 != 0) continue;
    p.setPen(QColor(90, 90, 90));
    p.drawText(QRectF(box.left(), yOf(ev) - 10 * unit, 36 * unit, 20 * unit), Qt::AlignRight | Qt::AlignVCenter,
               QString::number(ev).replace('-', QChar(0x2212)));
  }
  drawReadings(p, d, yOf, {axis, names, box.bottom()}, unit); // behind the columns, so that no line crosses a time
  const double pitch = (names - axis - 16 * unit) / double(d.columns.size()), bar = std::min(54 * unit, pitch * 0.8);
  for (std::size_t i = 0; i < d.columns.size(); ++i) {
    const auto& c = d.columns[i];
    const QRectF r(axis + 12 * unit + double(i) * pitch, yOf(c.clip), bar, yOf(c.floor) - yOf(c.clip));
    p.setPen(QPen(Qt::black, 1.6 * unit));
    p.setBrush(QColor(225, 225, 225));
    p.drawRoundedRect(r, 4 * unit, 4 * unit);
    p.setPen(Qt::black);
    setFont(p, std::min(21 * unit, bar * 0.5), true);
    p.save();
    p.translate(r.center());
    p.rotate(-90);
    p.drawText(QRectF(-r.height() / 2, -r.width() / 2, r.height() - 8 * unit, r.width()),
               Qt::AlignRight | Qt::AlignVCenter, c.time);
    p.restore();
  }
}

/// The card as it is drawn, on paper in one piece: what was planned, the light and the frames, then what to do.
void draw(QPainter& p, const FieldCard& card, const QRectF& page, double unit) {
  p.fillRect(page, Qt::white);
  p.setRenderHint(QPainter::SmoothPixmapTransform);
  const QRectF inside = page.adjusted(45 * unit, 36 * unit, -45 * unit, -24 * unit);
  Sheet s(p, inside, unit);
  s.title(text(card.view));
  s.quiet(text(card.job + ", " + card.plan.camera.name));
  s.strong(times(card.plan));
  s.line(text(verdict(card.plan)));
  const double top = s.bottom() + 8 * unit, tall = 300 * unit, half = inside.width() / 2 - 8 * unit;
  drawPicture(p, card, QRectF(inside.left(), top, half, tall), unit);
  const bool alone = card.picture.isNull();
  drawLadder(p, card,
             QRectF(alone ? inside.left() : inside.left() + half + 16 * unit, top, alone ? inside.width() : half, tall),
             unit);
  s.goTo(top + tall + 6 * unit);
  s.heading(QObject::tr("On the camera, in this order"));
  for (const auto& setting : cameraSettings(card.plan, card.situation, card.feet))
    s.pair(text(setting.name), text(setting.value));
  const ShotList shots = shotList(card.plan, card.situation);
  QStringList many;
  for (const auto& [count, what] : {std::pair{shots.rows, QObject::tr("rows")},
                                    {shots.columns, QObject::tr("columns")},
                                    {shots.shifts, QObject::tr("lens shifts")},
                                    {shots.planes, QObject::tr("planes of focus")}})
    if (count > 1) many << QString("%1 %2").arg(count).arg(what);
  s.line(QObject::tr("%1 frames in %2%3; %4 s with timers, %5 MB.")
             .arg(shots.shots.size())
             .arg(shots.count() == 1 ? QObject::tr("one set") : QObject::tr("%1 sets").arg(shots.count()))
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

FieldCard fieldCardOf(const FramesModel& frames) {
  Desk& desk = frames.desk();
  const View& view = desk.view();
  LadderContent content;
  content.columns = LadderContent::Columns::Planned;
  return {desk.job.job().name(),      view.name,       *view.plan,
          frames.choices().situation, view.readings,   desk.camera.finder(),
          ladderOf(view, content),    desk.habits.feet};
}

void drawFieldCard(QPainter& painter, const FieldCard& card, const QRectF& page) {
  draw(painter, card, page, page.width() / 1000);
}

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
                  phrase("`{}` cannot be written; free some space or choose another folder.", file.string()));
    const QRectF page(0, 0, pdf.width(), pdf.height());
    draw(p, card, page, page.width() / 1000);
    if (!p.end())
      return fail(ErrorCode::CannotWrite,
                  phrase("`{}` cannot be written; free some space or choose another folder.", file.string()));
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
                phrase("`{}` cannot be written; free some space or choose another folder.", files[1].string()));
  };
  for (const auto& done :
       {writeFieldCardPdf(card, files[0]), writeAtomically(files[1], png), writeTextAtomically(files[2], toCsv(shots)),
        writeTextAtomically(files[3], toJson(shots).dump(2) + "\n")})
    if (!done) return passOn(done.error());
  return files;
}

} // namespace ml
