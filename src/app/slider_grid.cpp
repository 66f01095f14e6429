// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/slider_grid.h"

#include "model/drag.h"

#include "app/theme.h"

#include <QGridLayout>
#include <QLabel>
#include <QLocale>
#include <QPainter>
#include <QSignalBlocker>
#include <QSlider>
#include <QStyle>
#include <cmath>

namespace ml {
namespace {

QString reading(const SliderControl& c, double value) {
  const QString sign = value > 0.004 ? "+" : value < -0.004 ? QString(QChar(0x2212)) : QString();
  switch (c.reads) {
  case SliderControl::Reads::Stops: return QObject::tr("%1%2 stop").arg(sign).arg(std::abs(value), 0, 'f', 1);
  case SliderControl::Reads::Degrees: return QObject::tr("%1%2\u00b0").arg(sign).arg(std::abs(value), 0, 'f', 1);
  case SliderControl::Reads::FromEv:
    return value <= c.low * c.unit ? QObject::tr("all")
                                   : QObject::tr("EV %1").arg(value, 0, 'f', 1).replace('-', QChar(0x2212));
  case SliderControl::Reads::ToEv:
    return value >= c.high * c.unit ? QObject::tr("all") : QObject::tr("EV %1").arg(value, 0, 'f', 1);
  case SliderControl::Reads::Plain: return sign + QLocale().toString(std::abs(value), 'f', 1);
  default: return QObject::tr("%1 %").arg(int(std::lround(value * 100))).replace('-', QChar(0x2212));
  }
}

QString widestReading(SliderControl::Reads reads) {
  switch (reads) {
  case SliderControl::Reads::Plain: return "+0.0";
  case SliderControl::Reads::Percent: return "100 %";
  case SliderControl::Reads::FromEv:
  case SliderControl::Reads::ToEv: return "EV 10.0";
  default: return QObject::tr("%1%2 stop").arg("+").arg(0.0, 0, 'f', 1);
  }
}

/// A slider with a mark where nothing is changed; a double click goes back there.
class MarkedSlider : public QSlider {
public:
  explicit MarkedSlider(int usual) : QSlider(Qt::Horizontal), usual_(usual) {}

protected:
  void paintEvent(QPaintEvent* event) override {
    QPainter p(this);
    const double share = double(usual_ - minimum()) / std::max(1, maximum() - minimum());
    const int x = QStyle::sliderPositionFromValue(minimum(), maximum(), usual_, width() - kHandle) + kHandle / 2;
    p.setPen(QPen(palette().color(QPalette::PlaceholderText), 1));
    if (share >= 0 && share <= 1) p.drawLine(x, height() / 2 - 7, x, height() / 2 + 7);
    p.end();
    QSlider::paintEvent(event);
  }
  void mouseDoubleClickEvent(QMouseEvent*) override { setValue(usual_); }

private:
  static constexpr int kHandle = 15;
  int usual_;
};

} // namespace

SliderGrid::SliderGrid(const std::vector<SliderControl>& controls, int across, QWidget* parent) : QWidget(parent) {
  auto* grid = new QGridLayout(this);
  grid->setContentsMargins(0, 0, 0, 0);
  grid->setHorizontalSpacing(16);
  grid->setVerticalSpacing(2);
  for (std::size_t i = 0; i < controls.size(); ++i) {
    const SliderControl& c = controls[i];
    const int line = int(i) / across * 2, column = int(i) % across * 2;
    auto* title = new QLabel(c.title);
    title->setFont(uiFont(9));
    auto* slider = new MarkedSlider(c.usual);
    slider->setObjectName(c.name);
    slider->setRange(c.low, c.high);
    slider->setAccessibleName(c.title);
    slider->setMinimumHeight(grown(22));
    slider->setToolTip(c.tip);
    title->setToolTip(c.tip);
    auto* figure = new QLabel;
    figure->setObjectName(QString("%1Figure").arg(c.name));
    figure->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    figure->setFont(uiFont(9));
    figure->setMinimumWidth(figure->fontMetrics().horizontalAdvance(widestReading(c.reads)));
    grid->addWidget(title, line, column);
    grid->addWidget(figure, line, column + 1);
    grid->addWidget(slider, line + 1, column, 1, 2);
    grid->setColumnStretch(column, 1);
    rows_.push_back({c, slider, figure, 0});
    connect(slider, &QSlider::sliderPressed, this, [this, i] { rows_[i].drag = newDrag(); });
    connect(slider, &QSlider::valueChanged, this, [this, i](int value) {
      const Row& row = rows_[i];
      emit moved(int(i), value * row.control.unit, row.slider->isSliderDown() ? row.drag : 0);
    });
  }
}

void SliderGrid::setValue(int index, double value) {
  const Row& row = rows_[std::size_t(index)];
  const QSignalBlocker quiet(row.slider);
  if (!row.slider->isSliderDown()) row.slider->setValue(int(std::lround(value / row.control.unit)));
  row.figure->setText(reading(row.control, value));
}

void SliderGrid::setReady(bool ready) {
  for (const Row& row : rows_) row.slider->setEnabled(ready);
}

} // namespace ml
