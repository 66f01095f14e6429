// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "ingest/grouping.h"
#include "model/lane.h"

#include <QImage>
#include <QObject>
#include <QUndoStack>
#include <map>

namespace ml {

/// How files fall into sets, while the user mends it. Every step is undone as it was made.
class Sorting : public QObject {
  Q_OBJECT

public:
  explicit Sorting(Grouping grouping, QObject* parent = nullptr);

  [[nodiscard]] const Grouping& grouping() const { return grouping_; }
  [[nodiscard]] QUndoStack& undoStack() { return undo_; }
  /// One sentence: how many sets, repeats, positions; what is set aside and what cannot be used.
  [[nodiscard]] QString summary() const;
  /// "Five frames, 1/1000 to 1/4 s", and what kind of group it is.
  [[nodiscard]] QString describe(const FileGroup& group) const;
  [[nodiscard]] QImage thumbnail(const std::filesystem::path& file) const;

  bool split(int set, int file);
  bool join(int set);
  bool move(int set, int file, int toSet);
  bool togglePosition(int set);
  bool putAside(int set);
  /// How many views the sets make.
  [[nodiscard]] int views() const;
  bool putFileAside(int set, int file);
  bool takeBack(int aside);

  static constexpr int kThumbnailEdge = 132;

signals:
  void changed();
  void thumbnailReady();

private:
  template <class Edit> bool edit(const QString& text, const Edit& change);
  void show(const Grouping& grouping);
  void loadThumbnails();

  Grouping grouping_;
  QUndoStack undo_;
  std::map<std::filesystem::path, QImage> thumbnails_;
  Lane work_;
};

} // namespace ml
