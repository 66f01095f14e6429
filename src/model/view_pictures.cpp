// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/view_pictures.h"

#include "ingest/small_picture.h"
#include "model/pictures.h"

#include <QSaveFile>

namespace ml {
namespace {

QString fileOf(const View& view) {
  return QString::fromStdString((view.folder / "small.jpg").string());
}

/// The middle of a set in the order of its names, which is that of its exposures as a rule.
std::filesystem::path middleFrame(const View& view) {
  return view.frames.empty() ? std::filesystem::path() : view.frames[view.frames.size() / 2];
}

} // namespace

QImage smallPictureOf(const std::filesystem::path& file, int edge) {
  if (file.empty()) return {};
  const auto small = loadSmallPicture(file, edge);
  return small ? toQImage(*small) : QImage();
}

QImage keepSmall(const View& view, const QImage& picture) {
  if (picture.isNull()) return {};
  const QImage small =
      picture.scaled(ViewPictures::kEdge, ViewPictures::kEdge, Qt::KeepAspectRatio, Qt::SmoothTransformation);
  QSaveFile file(fileOf(view));
  if (file.open(QIODevice::WriteOnly) && small.save(&file, "JPG", 88)) file.commit();
  return small;
}

ViewPictures::ViewPictures(Desk& desk) : desk_(desk) {
  connect(&desk_.job, &JobModel::jobOpened, this, [this] {
    pictures_.clear();
    load();
  });
  connect(&desk_.job, &JobModel::viewsChanged, this, &ViewPictures::load);
  connect(&desk_.job, &JobModel::viewChanged, this, [this](const std::string& view, Aspect aspect) {
    if (aspect != Aspect::Sets) return;
    pictures_[view].before = {};
    if (!desk_.busy()) load();
  });
  connect(&desk_.camera, &CameraSession::finderDrawn, this, [this] {
    if (!desk_.hasView() || !desk_.view().frames.empty() || desk_.camera.finder().isNull()) return;
    pictures_[idOf(desk_.view())].before =
        desk_.camera.finder().scaled(kEdge, kEdge, Qt::KeepAspectRatio, Qt::SmoothTransformation);
    emit changed();
  });
  connect(&desk_.works.longWork, &Lane::runningChanged, this, [this](bool busy) {
    if (!busy) load();
  });
}

const ViewPictures::Pair& ViewPictures::of(const std::string& view) const {
  static const Pair none;
  const auto found = pictures_.find(view);
  return found == pictures_.end() ? none : found->second;
}

void ViewPictures::finished(const std::string& view, const QImage& picture) {
  const View* there = desk_.job.find(view);
  if (!there || picture.isNull()) return;
  desk_.works.small.start([this, v = *there, picture](const Progress&) -> std::function<void()> {
    return [this, id = idOf(v), small = keepSmall(v, picture)] { put(id, small); };
  });
}

void ViewPictures::put(const std::string& view, const QImage& small) {
  if (small.isNull() || !desk_.job.find(view)) return;
  pictures_[view].after = small;
  emit changed();
}

/// Whatever is missing, one after the other.
void ViewPictures::load() {
  if (!desk_.job.isOpen()) return;
  struct Wanted {
    std::string view;
    std::filesystem::path frame;
    QString finished;
  };
  std::vector<Wanted> wanted;
  for (const View& v : desk_.job.job().views()) {
    const Pair& known = of(idOf(v));
    Wanted w{idOf(v), known.before.isNull() ? middleFrame(v) : std::filesystem::path(),
             v.combined && known.after.isNull() ? fileOf(v) : QString()};
    if (!w.frame.empty() || !w.finished.isEmpty()) wanted.push_back(w);
  }
  if (wanted.empty()) return;
  desk_.works.pictures.start([this, wanted](const Progress& progress) -> std::function<void()> {
    for (const Wanted& w : wanted) {
      if (progress.stopRequested()) return {};
      const Pair pair{smallPictureOf(w.frame, kEdge), w.finished.isEmpty() ? QImage() : QImage(w.finished)};
      const auto show = [this, w, pair] {
        if (!desk_.job.find(w.view)) return;
        Pair& known = pictures_[w.view];
        if (!pair.before.isNull()) known.before = pair.before;
        if (known.after.isNull()) known.after = pair.after;
        emit changed();
      };
      QMetaObject::invokeMethod(this, show, Qt::QueuedConnection);
    }
    return {};
  });
}

} // namespace ml
