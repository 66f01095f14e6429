// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QByteArray>
#include <QColorTransform>
#include <QImage>
#include <QString>
#include <optional>

class QScreen;

namespace ml {

/// The colours of a screen: pictures are sRGB and are drawn so that they look so on it.
class MonitorColour {
public:
  MonitorColour() = default; ///< As if it were sRGB.

  /// By an ICC profile of three primaries and curves (a profile that has tables too is used by its primaries). Nothing
  /// or something else: sRGB, and the words say why.
  [[nodiscard]] static MonitorColour ofProfile(const QByteArray& icc);

  [[nodiscard]] bool isSrgb() const { return !toScreen_; }
  [[nodiscard]] QImage shown(const QImage& srgb) const;
  /// Differs between colours of different screens.
  [[nodiscard]] qint64 key() const { return key_; }
  /// Words for a form: whose colours pictures are shown in.
  [[nodiscard]] QString words() const;

private:
  std::optional<QColorTransform> toScreen_;
  QString name_;
  qint64 key_ = 0;
  bool unusable_ = false;
};

/// The profile that the system names for a screen: the property _ICC_PROFILE of the root window (ICC Profiles in X,
/// version 0.4). Empty where there is none, or no X.
[[nodiscard]] QByteArray profileOfScreen(const QScreen* screen);

/// Of the screen that the window is on.
[[nodiscard]] const MonitorColour& monitorColour();
/// True: it changed, and pictures are to be drawn again.
bool setMonitorProfile(const QByteArray& icc);

} // namespace ml
