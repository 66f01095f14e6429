// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/monitor_colour.h"

#include <QColorSpace>
#include <QCoreApplication>
#include <QGuiApplication>
#include <QScreen>
#include <cstdlib>
#include <memory>
#include <xcb/xcb.h>

namespace ml {
namespace {

struct Current {
  QByteArray icc;
  MonitorColour colour;
};
Current& current() {
  static Current instance;
  return instance;
}

QString turned(const char* words) {
  return QCoreApplication::translate("MonitorColour", words);
}

template <class T> using Owned = std::unique_ptr<T, decltype(&std::free)>;
template <class T> Owned<T> owned(T* reply) {
  return {reply, &std::free};
}

} // namespace

MonitorColour MonitorColour::ofProfile(const QByteArray& icc) {
  MonitorColour out;
  if (icc.isEmpty()) return out;
  const QColorSpace screen = QColorSpace::fromIccProfile(icc), srgb(QColorSpace::SRgb);
  out.unusable_ = !screen.isValid();
  if (out.unusable_ || screen == srgb) return out;
  out.toScreen_ = srgb.transformationToColorSpace(screen);
  out.name_ = screen.description();
  static qint64 made = 0;
  out.key_ = ++made;
  return out;
}

QImage MonitorColour::shown(const QImage& srgb) const {
  if (!toScreen_ || srgb.isNull()) return srgb;
  QImage out = srgb.hasAlphaChannel() ? srgb : srgb.convertToFormat(QImage::Format_RGB32); // what is drawn fastest
  out.applyColorTransform(*toScreen_);
  return out;
}

QString MonitorColour::words() const {
  if (unusable_)
    return turned(QT_TRANSLATE_NOOP("MonitorColour", "sRGB: the colour profile of this screen is of a kind that cannot "
                                                     "be used (no primaries and curves)"));
  if (isSrgb())
    return turned(QT_TRANSLATE_NOOP("MonitorColour", "sRGB: the system names no other colours for this screen"));
  return name_.isEmpty() ? turned(QT_TRANSLATE_NOOP("MonitorColour", "the colour profile that the system names"))
                         : turned(QT_TRANSLATE_NOOP("MonitorColour", "colour profile \"%1\"")).arg(name_);
}

QByteArray profileOfScreen(const QScreen* screen) {
  const auto* x11 = qGuiApp->nativeInterface<QNativeInterface::QX11Application>();
  xcb_connection_t* connection = x11 ? x11->connection() : nullptr; // offscreen there is an interface to nothing
  if (!connection || !screen) return {};
  const auto index = QGuiApplication::screens().indexOf(const_cast<QScreen*>(screen));
  const QByteArray name = index > 0 ? "_ICC_PROFILE_" + QByteArray::number(index) : QByteArray("_ICC_PROFILE");
  const auto atom = owned(xcb_intern_atom_reply(
      connection, xcb_intern_atom(connection, true, std::uint16_t(name.size()), name.constData()), nullptr));
  if (!atom || atom->atom == XCB_ATOM_NONE) return {};
  const xcb_window_t root = xcb_setup_roots_iterator(xcb_get_setup(connection)).data->root;
  constexpr std::uint32_t kMostWords = 4u << 20; // 16 MB; profiles with tables take a few
  const auto bytes = owned(xcb_get_property_reply(
      connection, xcb_get_property(connection, false, root, atom->atom, XCB_GET_PROPERTY_TYPE_ANY, 0, kMostWords),
      nullptr));
  if (!bytes || bytes->format != 8 || bytes->bytes_after > 0) return {};
  return {static_cast<const char*>(xcb_get_property_value(bytes.get())), xcb_get_property_value_length(bytes.get())};
}

const MonitorColour& monitorColour() {
  return current().colour;
}

bool setMonitorProfile(const QByteArray& icc) {
  if (icc == current().icc) return false;
  current() = {icc, MonitorColour::ofProfile(icc)};
  return true;
}

} // namespace ml
