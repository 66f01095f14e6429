// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ladder_widget.h"

#include "model/drag.h"

#include <QApplication>
#include <QClipboard>
#include <QContextMenuEvent>
#include <QDrag>
#include <QKeyEvent>
#include <QMenu>
#include <QMimeData>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace ml {
namespace {

int headRoom() {
  return grown(44);
}
int footRoom() {
  return grown(66);
}
int pinLane() {
  return grown(90);
}
constexpr int kAxis = 46;                      // the scale's line
constexpr int kGlowLeft = 48, kGlowWidth = 48; // the scene's own distribution
constexpr int kColumnsLeft = 106;              // frames between the glow and the pins' names
constexpr int kPaperLane = 98, kPaperWidth = 14, kTonesWidth = 26;
constexpr double kKeyPull = 0.1; // stops
constexpr double kPaperRange = kPaperStops;

QColor faded(QColor c, int alpha) {
  c.setAlpha(alpha);
  return c;
}

/// Positions at least `gap` apart, as near to the wanted ones as a single downward and upward pass makes them.
std::vector<double> spread(std::vector<double> wanted, double gap, double low, double high) {
  for (std::size_t i = 1; i < wanted.size(); ++i) wanted[i] = std::max(wanted[i], wanted[i - 1] + gap);
  double limit = high;
  for (std::size_t i = wanted.size(); i-- > 0;) {
    wanted[i] = std::max(low, std::min(wanted[i], limit));
    limit = wanted[i] - gap;
  }
  return wanted;
}

} // namespace

LadderWidget::LadderWidget(QWidget* parent) : QWidget(parent) {
  setObjectName("ladder");
  setFixedWidth(234 + pinLane());
  setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Preferred);
  setMouseTracking(true);
  setFocusPolicy(Qt::StrongFocus);
  setAccessibleName(tr("Light Ladder"));
  setToolTip(tr("The scene's light in stops: pins are readings, columns are frames, from where they are clean enough "
                "to where they clip.\n"
                "Everyday levels after American National Standard PH2.7-1986."));
}

void LadderWidget::show(const LadderData& data, int shownFrame) {
  data_ = data;
  shownFrame_ = shownFrame;
  if (keyTie_ >= int(data_.ties.size())) keyTie_ = -1;
  update();
}

void LadderWidget::setTheme(const Theme& theme) {
  theme_ = &theme;
  update();
}

double LadderWidget::yOf(double ev) const {
  return headRoom() + (data_.top - ev) / (data_.top - data_.bottom) * (height() - headRoom() - footRoom());
}

double LadderWidget::paperY(double stops) const {
  return headRoom() + -stops / kPaperRange * (height() - headRoom() - footRoom());
}

double LadderWidget::columnsRight() const {
  return width() - (data_.pins.empty() && data_.given.empty() ? 14 : pinLane());
}

double LadderWidget::pitch() const {
  return std::min(40.0, (columnsRight() - kColumnsLeft) / std::max<double>(1, double(data_.columns.size())));
}

/// Two thirds of its lane; what the frame gave stands in the rest.
QRectF LadderWidget::columnRect(int index) const {
  const double bar = std::clamp(pitch() * 0.62, 4.0, 24.0);
  const auto& c = data_.columns[std::size_t(index)];
  return {kColumnsLeft + index * pitch() + 2, yOf(c.clip), bar, yOf(c.floor) - yOf(c.clip)};
}

void LadderWidget::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.fillRect(rect(), theme_->ground);
  p.setPen(theme_->line);
  p.drawLine(width() - 1, 0, width() - 1, height());
  drawScale(p);
  drawWanted(p);
  drawLegend(p);
  drawGlow(p);
  if (data_.ties.empty()) {
    drawUncovered(p);
    drawPinLines(p);
    drawColumns(p);
  } else {
    drawPaper(p);
  }
  drawGiven(p);
  drawPins(p);
  if (data_.pins.empty() && data_.columns.empty() && data_.glow.empty() && data_.legend.empty()) drawEmpty(p);
}

void LadderWidget::drawScale(QPainter& p) const {
  p.setFont(uiFont(9));
  p.setPen(theme_->quiet);
  p.drawText(QRect(8, 8, width() - 16, grown(18)), Qt::AlignLeft | Qt::AlignVCenter, tr("Light, EV at ISO 100"));
  const int every = data_.top - data_.bottom > 14 ? 2 : 1;
  // Lines of the grid end where words begin.
  const double gridRight = !data_.legend.empty() ? kGlowLeft + (data_.glow.empty() ? 4 : kGlowWidth)
                           : !data_.ties.empty() ? kGlowLeft + kGlowWidth
                                                 : columnsRight() - 4;
  for (int ev = int(std::ceil(data_.bottom)); ev <= int(data_.top); ++ev) {
    const double y = yOf(ev);
    const bool named = ev % every == 0;
    p.setPen(QPen(theme_->line, 1));
    p.drawLine(QPointF(kAxis - (named ? 6 : 3), y), QPointF(kAxis, y));
    p.setPen(QPen(faded(theme_->line, 70), 1));
    p.drawLine(QPointF(kAxis, y), QPointF(gridRight, y));
    if (!named) continue;
    p.setPen(theme_->quiet);
    p.drawText(QRectF(0, y - grown(9), kAxis - 10, grown(18)), Qt::AlignRight | Qt::AlignVCenter,
               QString::number(ev).replace('-', QChar(0x2212)));
  }
  p.setPen(QPen(theme_->quiet, 1));
  p.drawLine(QPointF(kAxis, headRoom()), QPointF(kAxis, height() - footRoom()));
}

/// A quiet band on the scale over all the light that must be kept.
void LadderWidget::drawWanted(QPainter& p) const {
  if (!data_.wanted) return;
  const double top = yOf(data_.wanted->to), bottom = yOf(data_.wanted->from);
  p.fillRect(QRectF(kAxis, top, columnsRight() - 4 - kAxis, bottom - top), faded(theme_->text, 9));
  p.setPen(QPen(theme_->accent, 3));
  p.drawLine(QPointF(kAxis, top), QPointF(kAxis, bottom));
}

void LadderWidget::drawLegend(QPainter& p) const {
  if (data_.legend.empty()) return;
  p.setFont(uiFont(8.5));
  const double left = data_.glow.empty() ? kAxis + 12 : kGlowLeft + kGlowWidth + 10;
  const double right = data_.pins.empty() ? width() - 12 : width() - pinLane() - 12;
  for (const auto& level : data_.legend) {
    if (level.ev > data_.top - 0.2 || level.ev < data_.bottom + 0.2) continue;
    p.setPen(faded(theme_->quiet, 200));
    p.drawText(QRectF(left, yOf(level.ev) - grown(9), right - left, grown(18)), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(level.label, Qt::ElideRight, int(right - left)));
  }
}

void LadderWidget::drawGlow(QPainter& p) const {
  if (data_.glow.empty()) return;
  const float most = *std::max_element(data_.glow.begin(), data_.glow.end());
  if (most <= 0) return;
  QPainterPath path(QPointF(kGlowLeft, yOf(data_.glowStart)));
  for (std::size_t i = 0; i < data_.glow.size(); ++i)
    path.lineTo(kGlowLeft + kGlowWidth * std::sqrt(data_.glow[i] / most),
                yOf(data_.glowStart + (double(i) + 0.5) * data_.glowStep));
  path.lineTo(kGlowLeft, yOf(data_.glowStart + double(data_.glow.size()) * data_.glowStep));
  path.closeSubpath();
  QLinearGradient fill(kGlowLeft, 0, kGlowLeft + kGlowWidth, 0);
  fill.setColorAt(0, faded(theme_->text, 130));
  fill.setColorAt(1, faded(theme_->text, 30));
  p.fillPath(path, fill);
}

void LadderWidget::drawUncovered(QPainter& p) const {
  for (const auto& s : data_.uncovered) {
    const QRectF band(kAxis + 1, yOf(s.to), width() - pinLane() - kAxis, yOf(s.from) - yOf(s.to));
    p.fillRect(band, QBrush(theme_->quiet, Qt::BDiagPattern));
    p.setFont(uiFont(8.5));
    p.setPen(theme_->text);
    if (band.height() > 16) p.drawText(band.adjusted(6, 2, -6, -2), Qt::AlignLeft | Qt::AlignTop, tr("not covered"));
  }
}

void LadderWidget::drawColumns(QPainter& p) const {
  if (data_.together) { // a bracket around what all frames record together
    const double x = kColumnsLeft - 4, top = yOf(data_.together->to), bottom = yOf(data_.together->from);
    p.setPen(QPen(theme_->info, 1.4));
    p.drawPolyline(QPolygonF({QPointF(x + 5, top), QPointF(x, top), QPointF(x, bottom), QPointF(x + 5, bottom)}));
  }
  for (int i = 0; i < int(data_.columns.size()); ++i) {
    drawColumn(p, i);
    drawGivenBy(p, i);
  }
  drawFeet(p);
}

void LadderWidget::drawColumn(QPainter& p, int index) const {
  const auto& c = data_.columns[std::size_t(index)];
  const QRectF r = columnRect(index);
  const bool selected = c.frame >= 0 && c.frame == shownFrame_;
  QLinearGradient fill(r.bottomLeft(), r.topLeft());
  const double quietAt = std::clamp((c.quiet - c.floor) / std::max(0.1, c.clip - c.floor), 0.05, 0.95);
  fill.setColorAt(0, faded(theme_->info, c.shot ? 30 : 10));
  fill.setColorAt(quietAt, faded(theme_->info, c.shot ? 190 : 55));
  fill.setColorAt(1, faded(theme_->info, c.shot ? 230 : 80));
  p.setPen(QPen(selected ? theme_->text : theme_->info, selected ? 2 : 1, c.shot ? Qt::SolidLine : Qt::DashLine));
  p.setBrush(theme_->ground);
  p.drawRoundedRect(r, 3, 3);
  p.setBrush(c.aside ? QBrush(Qt::NoBrush) : QBrush(fill));
  p.drawRoundedRect(r, 3, 3);
  if (c.flawed && !c.aside) { // a pattern, not a colour: something was found in this frame
    p.setPen(Qt::NoPen);
    p.setBrush(QBrush(faded(theme_->ground, 150), Qt::BDiagPattern));
    p.drawRoundedRect(r.adjusted(1, 1, -1, -1), 3, 3);
  }
  p.save();
  p.translate(r.center());
  p.rotate(-90);
  p.setFont(uiFont(r.width() < 16 ? 8 : 9.5, true));
  const QRectF room(-r.height() / 2 + 8, -r.width() / 2, r.height() - 18, r.width());
  p.setPen(c.shot && !c.aside ? theme_->ground : theme_->text);
  if (r.width() >= 9) p.drawText(room, Qt::AlignRight | Qt::AlignVCenter, c.time);
  p.restore();
}

/// What this frame gave to the combined picture, in a lane of its own: a mark at each half stop for which it says most,
/// as wide as its say.
void LadderWidget::drawGivenBy(QPainter& p, int index) const {
  const QRectF r = columnRect(index);
  const double room = std::clamp(kColumnsLeft + (index + 1) * pitch() - r.right() - 2, 2.0, 9.0);
  p.setPen(Qt::NoPen);
  p.setBrush(theme_->accent);
  for (const auto& given : data_.given) {
    if (given.column != index) continue;
    const double half = std::max(2.0, (yOf(given.ev) - yOf(given.ev + 0.5)) / 2 - 1);
    p.drawRoundedRect(QRectF(r.right() + 2, yOf(given.ev) - half, std::max(2.0, room * given.share), 2 * half), 1.5,
                      1.5);
  }
}

/// Numbers, and stops from the middle of the plan; on a second row where one has no room, left out where neither has.
void LadderWidget::drawFeet(QPainter& p) const {
  const double foot = height() - footRoom() + 8;
  double numbersEnd = 0, rowEnd[2] = {0, 0};
  for (int i = 0; i < int(data_.columns.size()); ++i) {
    const auto& c = data_.columns[std::size_t(i)];
    const double middle = columnRect(i).center().x();
    const QString number = c.flawed && !c.aside ? QString("%1 !").arg(c.number) : QString::number(c.number);
    p.setFont(uiFont(9, true));
    if (const double half = p.fontMetrics().horizontalAdvance(number) / 2.0; middle - half > numbersEnd) {
      p.setPen(theme_->text);
      p.drawText(QRectF(middle - half - 2, foot, 2 * half + 4, grown(16)), Qt::AlignCenter, number);
      numbersEnd = middle + half + 1;
    }
    p.setFont(uiFont(8));
    const QString offset = QString(c.offset).replace('-', QChar(0x2212));
    const double half = p.fontMetrics().horizontalAdvance(offset) / 2.0;
    const int row = middle - half > rowEnd[0] ? 0 : middle - half > rowEnd[1] ? 1 : -1;
    if (row < 0) continue;
    p.setPen(theme_->quiet);
    p.drawText(QRectF(middle - half - 2, foot + grown(17) + grown(14) * row, 2 * half + 4, grown(14)), Qt::AlignCenter,
               offset);
    rowEnd[row] = middle + half + 3;
  }
}

/// The measured signal to noise ratio beside the scale, where it changes to another class: what was planned shows
/// against what was got.
void LadderWidget::drawGiven(QPainter& p) const {
  if (data_.given.empty() || !data_.pins.empty()) return;
  p.setFont(uiFont(8.5));
  double last = -100;
  for (auto it = data_.given.rbegin(); it != data_.given.rend(); ++it) {
    const double y = yOf(it->ev);
    if (std::abs(y - last) < 46) continue;
    last = y;
    p.setPen(theme_->quiet);
    p.drawText(QRectF(width() - 108, y - grown(8), 100, grown(16)), Qt::AlignRight | Qt::AlignVCenter,
               tr("SNR %1").arg(it->snr, 0, 'f', 0));
  }
}

std::vector<LadderData::Pin> LadderWidget::pinsFromTheTop() const {
  std::vector<LadderData::Pin> pins = data_.pins;
  std::sort(pins.begin(), pins.end(), [](const auto& a, const auto& b) { return a.ev > b.ev; });
  return pins;
}

std::vector<double> LadderWidget::namePlaces(const std::vector<LadderData::Pin>& pins) const {
  std::vector<double> wanted;
  for (const auto& pin : pins) wanted.push_back(yOf(pin.ev));
  return spread(wanted, grown(32), headRoom() - 8, height() - footRoom() + 8);
}

/// Behind the columns, so that no line crosses a time.
void LadderWidget::drawPinLines(QPainter& p) const {
  const auto pins = pinsFromTheTop();
  const auto places = namePlaces(pins);
  const double right = width() - pinLane();
  for (std::size_t i = 0; i < pins.size(); ++i) {
    const double y = yOf(pins[i].ev);
    p.setPen(QPen(faded(theme_->accent, 170), 1, pins[i].keepTexture ? Qt::SolidLine : Qt::DotLine));
    p.drawLine(QPointF(kAxis, y), QPointF(right - 4, y));
    p.drawLine(QPointF(right - 4, y), QPointF(right + 4, places[i]));
  }
}

void LadderWidget::drawPins(QPainter& p) const {
  const auto pins = pinsFromTheTop();
  const auto places = namePlaces(pins);
  const double right = width() - pinLane();
  for (std::size_t i = 0; i < pins.size(); ++i) {
    const double y = yOf(pins[i].ev);
    QPainterPath diamond;
    diamond.moveTo(kAxis - 5, y);
    diamond.lineTo(kAxis, y - 5);
    diamond.lineTo(kAxis + 5, y);
    diamond.lineTo(kAxis, y + 5);
    diamond.closeSubpath();
    p.fillPath(diamond, theme_->accent);
    if (!data_.ties.empty()) continue;
    p.setFont(uiFont(9, true));
    p.setPen(theme_->text);
    p.drawText(QRectF(right + 8, places[i] - grown(15), pinLane() - 12, grown(15)), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(pins[i].label, Qt::ElideRight, pinLane() - 12));
    p.setFont(uiFont(9));
    p.setPen(theme_->quiet);
    p.drawText(QRectF(right + 8, places[i] - 1, pinLane() - 12, grown(15)), Qt::AlignLeft | Qt::AlignVCenter,
               (pins[i].atLeast ? tr("over EV %1") : tr("EV %1")).arg(pins[i].ev, 0, 'f', 1));
  }
}

void LadderWidget::drawPaper(QPainter& p) const {
  const double x = width() - kPaperLane, tall = height() - headRoom() - footRoom();
  QLinearGradient tones(0, headRoom(), 0, headRoom() + tall);
  for (int i = 0; i <= 16; ++i) {
    const double linear = std::exp2(-kPaperRange * i / 16);
    const int code =
        int(std::lround(255 * (linear <= 0.0031308 ? 12.92 * linear : 1.055 * std::pow(linear, 1 / 2.4) - 0.055)));
    tones.setColorAt(i / 16.0, QColor(code, code, code));
  }
  p.fillRect(QRectF(x, headRoom(), kPaperWidth, tall), tones);
  p.setPen(theme_->line);
  p.setBrush(Qt::NoBrush);
  p.drawRect(QRectF(x, headRoom(), kPaperWidth, tall));
  if (!data_.paper.empty()) { // how much of the picture lies at each tone
    const float most = std::max(1e-6f, *std::max_element(data_.paper.begin(), data_.paper.end()));
    const double left = x + kPaperWidth + 2, step = tall / double(data_.paper.size());
    QPainterPath shape(QPointF(left, headRoom()));
    for (std::size_t i = 0; i < data_.paper.size(); ++i)
      shape.lineTo(left + kTonesWidth * std::sqrt(data_.paper[i] / most), headRoom() + (double(i) + 0.5) * step);
    shape.lineTo(left, headRoom() + tall);
    p.fillPath(shape, faded(theme_->text, 110));
  }
  p.setFont(uiFont(9));
  p.setPen(theme_->quiet);
  p.drawText(QRectF(x - 60, 8, width() - x + 52, grown(18)), Qt::AlignRight | Qt::AlignVCenter, tr("Paper, stops"));
  const double words = x + kPaperWidth + kTonesWidth + 8;
  for (int stop = 0; stop <= int(kPaperRange); ++stop)
    p.drawText(QRectF(words, paperY(-stop) - grown(9), width() - words - 4, grown(18)),
               Qt::AlignLeft | Qt::AlignVCenter,
               stop == 0                  ? tr("white")
               : stop == int(kPaperRange) ? tr("black")
                                          : QString(QChar(0x2212)) + QString::number(stop));
  drawTies(p);
}

void LadderWidget::drawTies(QPainter& p) const {
  const double x = width() - kPaperLane;
  for (int i = 0; i < int(data_.ties.size()); ++i) {
    const Tie& tie = data_.ties[std::size_t(i)];
    const double y0 = yOf(tie.scene),
                 y1 = std::clamp(paperY(tie.paper), double(headRoom()), double(height() - footRoom()));
    QPainterPath path(QPointF(kGlowLeft + kGlowWidth + 6, y0));
    path.cubicTo(kColumnsLeft + 30, y0, x - 40, y1, x - 4, y1);
    const bool chosen = hasFocus() && i == keyTie_;
    p.setPen(QPen(faded(theme_->text, chosen ? 230 : 130), chosen ? 2 : 1.2));
    p.setBrush(Qt::NoBrush);
    p.drawPath(path);
    p.setPen(Qt::NoPen);
    const bool held = heldTie_ >= 0 && std::abs(tie.scene - heldEv_) < 0.05;
    const bool pulled = std::any_of(data_.pulled.begin(), data_.pulled.end(),
                                    [&](double ev) { return std::abs(ev - tie.scene) < 0.05; });
    p.setBrush(held || pulled ? theme_->accent : theme_->text);
    const double size = held || pulled || chosen ? 4.5 : 3.5;
    p.drawEllipse(QPointF(x - 4, y1), size, size);
  }
}

void LadderWidget::drawEmpty(QPainter& p) const {
  p.setFont(uiFont(10));
  p.setPen(theme_->quiet);
  p.drawText(
      QRect(kAxis + 20, headRoom() + 40, width() - kAxis - 40, 200), Qt::AlignLeft | Qt::TextWordWrap,
      tr("The Light Ladder.\n\nReadings become pins, frames become columns, and what no frame records stays hatched."));
}

double LadderWidget::paperAt(double y) const {
  return -(y - headRoom()) / (height() - headRoom() - footRoom()) * kPaperRange;
}

int LadderWidget::tieAt(QPointF at) const {
  if (data_.ties.empty() || at.x() < kColumnsLeft + 20) return -1;
  int best = -1;
  double nearest = 14;
  for (int i = 0; i < int(data_.ties.size()); ++i) {
    const double away = std::abs(paperY(data_.ties[std::size_t(i)].paper) - at.y());
    if (away < nearest) nearest = away, best = i;
  }
  return best;
}

void LadderWidget::mouseMoveEvent(QMouseEvent* event) {
  if (heldTie_ >= 0) {
    heldPaper_ = std::clamp(paperAt(event->position().y()), -kPaperRange - 2.0, 0.5);
    emit tieDragged(heldEv_, heldPaper_, drag_);
  } else {
    setCursor(tieAt(event->position()) >= 0 ? Qt::SizeVerCursor : Qt::ArrowCursor);
    const bool away = (event->position() - pressedAt_).manhattanLength() >= QApplication::startDragDistance();
    if (event->buttons() & Qt::LeftButton && away) carryOut();
  }
}

/// The drawing, and the light it shows as a list, for other programs.
void LadderWidget::carryOut() {
  auto* drag = new QDrag(this);
  auto* mime = new QMimeData;
  const QPixmap drawing = grab();
  mime->setImageData(drawing.toImage());
  mime->setText(listOf(data_));
  drag->setMimeData(mime);
  drag->setPixmap(drawing.scaledToHeight(160, Qt::SmoothTransformation));
  drag->exec(Qt::CopyAction);
}

void LadderWidget::mouseReleaseEvent(QMouseEvent*) {
  heldTie_ = -1;
  update();
}

// ---- The keys

void LadderWidget::chooseColumn(int step) {
  std::vector<int> shot;
  int at = -1;
  for (int i = 0; i < int(data_.columns.size()); ++i) {
    if (!data_.columns[std::size_t(i)].shot) continue;
    if (data_.columns[std::size_t(i)].frame == shownFrame_) at = int(shot.size());
    shot.push_back(i);
  }
  if (shot.empty()) return;
  const int next = std::clamp(at < 0 ? 0 : at + step, 0, int(shot.size()) - 1);
  const auto& c = data_.columns[std::size_t(shot[std::size_t(next)])];
  setAccessibleDescription(tr("Frame %1, %2").arg(c.number).arg(c.time));
  emit frameChosen(c.frame);
}

/// Ties go from dark to bright; up is brighter.
void LadderWidget::chooseTie(int step) {
  if (data_.ties.empty()) return;
  keyTie_ = std::clamp(keyTie_ < 0 ? int(data_.ties.size()) / 2 : keyTie_ + step, 0, int(data_.ties.size()) - 1);
  const Tie& tie = data_.ties[std::size_t(keyTie_)];
  setAccessibleDescription(
      tr("Light of EV %1 on paper at %2 stops").arg(tie.scene, 0, 'f', 1).arg(tie.paper, 0, 'f', 1));
  update();
}

void LadderWidget::pullChosenTie(double stops) {
  if (keyTie_ < 0 || keyTie_ >= int(data_.ties.size())) return chooseTie(0);
  const Tie tie = data_.ties[std::size_t(keyTie_)];
  emit tieDragged(tie.scene, std::clamp(tie.paper + stops, -kPaperRange - 2.0, 0.5), 0);
}

void LadderWidget::keyPressEvent(QKeyEvent* event) {
  const int across = event->key() == Qt::Key_Right ? 1 : event->key() == Qt::Key_Left ? -1 : 0;
  const int up = event->key() == Qt::Key_Up ? 1 : event->key() == Qt::Key_Down ? -1 : 0;
  if (across != 0) return chooseColumn(across);
  if (up != 0 && !data_.ties.empty())
    return event->modifiers() & Qt::ShiftModifier ? pullChosenTie(up * kKeyPull) : chooseTie(up);
  if (up != 0) return chooseColumn(up);
  QWidget::keyPressEvent(event);
}

void LadderWidget::contextMenuEvent(QContextMenuEvent* event) {
  QMenu menu(this);
  menu.addAction(tr("Copy as a picture"), this, [this] { QApplication::clipboard()->setPixmap(grab()); });
  menu.addAction(tr("Copy as a list"), this, [this] { QApplication::clipboard()->setText(listOf(data_)); });
  menu.exec(event->globalPos());
}

// ---- The hand

void LadderWidget::mousePressEvent(QMouseEvent* event) {
  pressedAt_ = event->position();
  heldTie_ = tieAt(event->position());
  if (heldTie_ >= 0) {
    heldEv_ = data_.ties[std::size_t(heldTie_)].scene;
    heldPaper_ = data_.ties[std::size_t(heldTie_)].paper;
    drag_ = newDrag();
    return update();
  }
  for (int i = 0; i < int(data_.columns.size()); ++i)
    if (data_.columns[std::size_t(i)].shot && columnRect(i).adjusted(-3, 0, 3, footRoom()).contains(event->position()))
      return emit frameChosen(data_.columns[std::size_t(i)].frame);
}

} // namespace ml
