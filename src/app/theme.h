// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QColor>
#include <QFont>
#include <QString>

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

/// The shipped typeface, tabular figures; point sizes on a scale of their own.
void installFonts();
[[nodiscard]] QFont uiFont(double points, bool bold = false);

} // namespace ml
