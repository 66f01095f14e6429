// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/sorting.h"

#include "exposure/ev.h"
#include "exposure/marks.h"
#include "ingest/small_picture.h"
#include "model/pictures.h"

#include <algorithm>

namespace ml {

Sorting::Sorting(Grouping grouping, QObject* parent) : QObject(parent), grouping_(std::move(grouping)) {
  loadThumbnails();
}

/// A few at a time, so that they appear while the rest is read.
void Sorting::loadThumbnails() {
  std::vector<std::filesystem::path> wanted;
  const auto add = [&](const std::vector<FileGroup>& groups) {
    for (const auto& group : groups)
      for (const auto& file : group.files)
        if (!thumbnails_.count(file.path) && wanted.size() < 16) wanted.push_back(file.path);
  };
  add(grouping_.sets);
  add(grouping_.aside);
  if (wanted.empty()) return;
  work_.start([this, wanted](const Progress& progress) -> std::function<void()> {
    std::vector<QImage> images;
    for (const auto& file : wanted) {
      if (progress.stopRequested()) break;
      const auto picture = loadSmallPicture(file, kThumbnailEdge);
      images.push_back(picture ? toQImage(*picture) : QImage());
    }
    return [this, wanted, images] {
      for (std::size_t i = 0; i < images.size(); ++i) thumbnails_[wanted[i]] = images[i];
      emit thumbnailReady();
      QMetaObject::invokeMethod(this, &Sorting::loadThumbnails, Qt::QueuedConnection);
    };
  });
}

QImage Sorting::thumbnail(const std::filesystem::path& file) const {
  const auto found = thumbnails_.find(file);
  return found == thumbnails_.end() ? QImage() : found->second;
}

QString Sorting::summary() const {
  const auto count = [&](GroupKind kind) {
    return int(
        std::count_if(grouping_.sets.begin(), grouping_.sets.end(), [&](const auto& g) { return g.kind == kind; }));
  };
  QStringList parts;
  const int sets = int(grouping_.sets.size()) - count(GroupKind::Single);
  parts << (sets == 1 ? tr("one set") : tr("%1 sets").arg(sets));
  if (const int n = count(GroupKind::Repeat))
    parts << (n == 1 ? tr("one of them shot again") : tr("%1 of them shot again").arg(n));
  if (const int n = count(GroupKind::OtherLight))
    parts << (n == 1 ? tr("one under another light") : tr("%1 of them under another light").arg(n));
  if (const int n = count(GroupKind::Panorama))
    parts << (n == 1 ? tr("one the next position of a panorama")
                     : tr("%1 of them further positions of a panorama").arg(n));
  if (const int n = count(GroupKind::Single))
    parts << (n == 1 ? tr("one single frame") : tr("%1 single frames").arg(n));
  QString text = tr("Found ") + parts.join(", ") + ".";
  if (!grouping_.aside.empty())
    text += grouping_.aside.size() == 1 ? tr(" One group is set aside.")
                                        : tr(" %1 groups are set aside.").arg(grouping_.aside.size());
  if (!grouping_.leftOut.empty()) text += " " + QString::fromStdString(grouping_.leftOut.front().reason.message);
  if (grouping_.leftOut.size() > 1) text += tr(" And %1 more.").arg(grouping_.leftOut.size() - 1);
  return text;
}

QString Sorting::describe(const FileGroup& group) const {
  if (group.files.empty()) return {};
  const auto [light, dark] =
      std::minmax_element(group.files.begin(), group.files.end(), [](const auto& a, const auto& b) {
        return ev100(a.settings).value < ev100(b.settings).value;
      });
  QString text = group.files.size() == 1 ? tr("one frame, %1").arg(QString::fromStdString(print(dark->settings.time)))
                                         : tr("%1 frames, %2 to %3")
                                               .arg(group.files.size())
                                               .arg(QString::fromStdString(print(dark->settings.time)),
                                                    QString::fromStdString(print(light->settings.time)));
  if (!group.files.front().exposureKnown)
    text = group.files.size() == 1 ? tr("one frame, exposure not said")
                                   : tr("%1 frames, exposures not said").arg(group.files.size());
  switch (group.kind) {
  case GroupKind::Repeat: return text + tr("; the set before it again");
  case GroupKind::OtherLight: return text + tr("; the view before it under another light");
  case GroupKind::Panorama: return text + tr("; a further position of the view before it");
  case GroupKind::Separator: return text + tr("; a separator");
  default: return text;
  }
}

void Sorting::show(const Grouping& grouping) {
  grouping_ = grouping;
  emit changed();
}

template <class Edit> bool Sorting::edit(const QString& text, const Edit& change) {
  Grouping after = grouping_;
  if (!change(after)) return false;
  class Step final : public QUndoCommand {
  public:
    Step(const QString& words, Sorting& sorting, Grouping after)
        : QUndoCommand(words), sorting_(sorting), before_(sorting.grouping_), after_(std::move(after)) {}
    void undo() override { sorting_.show(before_); }
    void redo() override { sorting_.show(after_); }

  private:
    Sorting& sorting_;
    Grouping before_, after_;
  };
  undo_.push(new Step(text, *this, std::move(after)));
  return true;
}

bool Sorting::split(int set, int file) {
  return edit(tr("begin a set"), [&](Grouping& g) { return splitGroup(g, std::size_t(set), std::size_t(file)); });
}
bool Sorting::join(int set) {
  return edit(tr("join sets"), [&](Grouping& g) { return joinWithNext(g, std::size_t(set)); });
}
bool Sorting::move(int set, int file, int toSet) {
  return edit(tr("move a frame"),
              [&](Grouping& g) { return moveFile(g, std::size_t(set), std::size_t(file), std::size_t(toSet)); });
}
bool Sorting::togglePosition(int set) {
  return edit(tr("change position"), [&](Grouping& g) { return ml::togglePosition(g, std::size_t(set)); });
}
int Sorting::views() const {
  return int(std::count_if(grouping_.sets.begin(), grouping_.sets.end(), [&](const FileGroup& g) {
    return g.kind != GroupKind::Panorama || &g == &grouping_.sets[0];
  }));
}
bool Sorting::putAside(int set) {
  return edit(tr("set aside"), [&](Grouping& g) { return setAside(g, std::size_t(set)); });
}
bool Sorting::putFileAside(int set, int file) {
  return edit(tr("set a frame aside"),
              [&](Grouping& g) { return setFileAside(g, std::size_t(set), std::size_t(file)); });
}
bool Sorting::takeBack(int aside) {
  return edit(tr("take back"), [&](Grouping& g) { return ml::takeBack(g, std::size_t(aside)); });
}

} // namespace ml
