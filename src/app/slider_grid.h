// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QString>
#include <QWidget>
#include <functional>
#include <vector>

class QLabel;
class QSlider;

namespace ml {

/// One control: a slider in whole units, and how its value reads.
struct SliderControl {
  const char* name; ///< Object name.
  QString title;
  int low, high;
  double unit; ///< Value of one step.
  enum class Reads {
    Percent,
    Stops,
    Degrees,
    Plain,
    FromEv,
    ToEv
  }; ///< FromEv and ToEv: no limit at the low, or the high end.
  Reads reads = Reads::Percent;
  QString tip = {};
  int usual = 0; ///< Where nothing is changed, in steps; marked, and where a double click goes.
};

/// Controls in rows of three: what each is and where it stands, and the slider under both. Values come from outside and
/// go back there.
class SliderGrid : public QWidget {
  Q_OBJECT

public:
  explicit SliderGrid(const std::vector<SliderControl>& controls, int across = 3, QWidget* parent = nullptr);
  void setValue(int index, double value);
  void setReady(bool ready);

signals:
  /// `dragId` is the same during one drag, 0 for a single step.
  void moved(int index, double value, int dragId);

private:
  struct Row {
    SliderControl control;
    QSlider* slider;
    QLabel* figure;
    int drag; ///< Number of the drag under way, or of the last.
  };
  std::vector<Row> rows_;
};

} // namespace ml
