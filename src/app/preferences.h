// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QString>

class QWidget;

namespace ml {

class Commands;

/// What the user chose once for all jobs. Takes effect at once; the jobs folder, the language and the size of text at
/// the next start.
class Preferences {
public:
  [[nodiscard]] static QString theme();      ///< "dusk" or "paper".
  [[nodiscard]] static QString jobsFolder(); ///< Empty: the usual one.
  [[nodiscard]] static QString language();   ///< "de"; empty: as the system asks. At the next start.
  [[nodiscard]] static bool feet();          ///< Distances in feet, not metres.
  [[nodiscard]] static double shadows();     ///< SNR that new jobs ask of the shadows.
  [[nodiscard]] static double textSize();    ///< 1 to 1.5, of all text; at the next start.
  [[nodiscard]] static int webEdge();        ///< Longest side of files for the web, pixels.
};

/// The dialog; true: something was changed.
bool editPreferences(QWidget* parent, Commands& commands);

} // namespace ml
