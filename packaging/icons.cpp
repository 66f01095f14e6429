// SPDX-License-Identifier: GPL-3.0-or-later
// ml_icons SVG FOLDER: the icon in all sizes that desktops ask for, as FOLDER/SIZE.png.
#include <QGuiApplication>
#include <QImage>
#include <QPainter>
#include <QSvgRenderer>

int main(int count, char** arguments) {
  qputenv("QT_QPA_PLATFORM", "offscreen");
  const QGuiApplication application(count, arguments);
  if (count < 3) return 2;
  QSvgRenderer drawing{QString::fromLocal8Bit(arguments[1])};
  if (!drawing.isValid()) return 3;
  for (const int size : {16, 22, 24, 32, 48, 64, 128, 256, 512}) {
    QImage icon(size, size, QImage::Format_ARGB32);
    icon.fill(Qt::transparent);
    QPainter painter(&icon);
    drawing.render(&painter);
    painter.end();
    if (!icon.save(QString("%1/%2.png").arg(QString::fromLocal8Bit(arguments[2])).arg(size))) return 5;
  }
  return 0;
}
