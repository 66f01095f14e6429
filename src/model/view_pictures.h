// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/desk.h"

#include <QImage>
#include <QObject>
#include <map>

namespace ml {

/// A small picture of every view of the job: how it was shot (the frame in the middle) and how it is finished. The
/// finished one is kept beside the view, so that a job of forty views shows them at once.
class ViewPictures : public QObject {
  Q_OBJECT

public:
  explicit ViewPictures(Desk& desk);

  struct Pair {
    QImage before, after; ///< Null: not there yet.
  };
  /// By the view's folder.
  [[nodiscard]] const Pair& of(const std::string& view) const;
  /// The view looks like this now; reduced and kept in the background.
  void finished(const std::string& view, const QImage& picture);
  /// It was kept already, by keepSmall.
  void put(const std::string& view, const QImage& small);

  static constexpr int kEdge = 360;

signals:
  void changed();

private:
  void load();

  Desk& desk_;
  std::map<std::string, Pair> pictures_;
};

/// Reduces a finished picture to kEdge and keeps it beside its view; from any thread. When it cannot be written, it is
/// drawn anew the next time.
[[nodiscard]] QImage keepSmall(const View& view, const QImage& picture);
/// From any thread. Null: there is none, or it cannot be read.
[[nodiscard]] QImage smallPictureOf(const std::filesystem::path& file, int edge);

} // namespace ml
