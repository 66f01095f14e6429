// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QColor>
#include <QFont>
#include <QString>

class QWidget;

namespace ml {

/// Two looks. Greys are neutral, so that nothing beside a picture tints the eye; one warm accent marks the thing to do
/// next, one cool tone gives information.
struct Theme {
  QString name;
  QColor ground;   ///< Behind everything.
  QColor surround; ///< Around pictures.
  QColor panel;    ///< Benches and header.
  QColor raised;   ///< Controls.
  QColor line;     ///< Hairlines.
  QColor text, quiet;
  QColor faint; ///< Of what cannot be used now; still 3:1 on a control.
  QColor accent, onAccent;
  QColor info;

  [[nodiscard]] QString styleSheet() const;
  static const Theme& dusk();
  static const Theme& paper();
};

/// Of all text, 1 to 1.5; windows made before keep theirs.
void setTextSize(double size);
[[nodiscard]] double textSize();
/// Pixels of which `share` hold text, as wide or high as that has grown.
[[nodiscard]] int grown(int pixels, double share = 1);

/// What may not fit once text has grown, in a frame that scrolls then; as long as it has not, the widget itself.
[[nodiscard]] QWidget* withinReach(QWidget* content);

/// The shipped typeface, tabular figures; point sizes on a scale of their own.
void installFonts();
[[nodiscard]] QFont uiFont(double points, bool bold = false);
/// What is printed or saved as a page keeps its size.
[[nodiscard]] QFont paperFont(double points, bool bold = false);

} // namespace ml
