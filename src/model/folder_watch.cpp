// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/folder_watch.h"

namespace ml {
namespace fs = std::filesystem;

FolderWatch::FolderWatch(Notices& notices, QObject* parent) : QObject(parent), notices_(notices) {
  constexpr int kMilliseconds = 400;
  timer_.setInterval(kMilliseconds);
  connect(&timer_, &QTimer::timeout, this, &FolderWatch::look);
}

bool FolderWatch::start(const QString& folder) {
  std::error_code error;
  if (!fs::is_directory(folder.toStdString(), error)) {
    notices_.fail(tr("`%1` is no folder; choose the one your camera's program writes to.").arg(folder));
    return false;
  }
  stop();
  folder_.emplace(folder.toStdString());
  timer_.start();
  return true;
}

void FolderWatch::stop() {
  timer_.stop();
  folder_.reset();
  waiting_.clear();
  lost_ = false;
}

QString FolderWatch::folder() const {
  return folder_ ? QString::fromStdString(folder_->folder().string()) : QString();
}
QString FolderWatch::folderName() const {
  return folder_ ? QString::fromStdString(folder_->folder().filename().string()) : QString();
}

std::optional<fs::path> FolderWatch::next() {
  if (!folder_) return {};
  if (waiting_.empty()) {
    const auto files = folder_->look();
    if (!files && !lost_) notices_.fail(files.error());
    lost_ = !files;
    if (files) waiting_.assign(files->begin(), files->end());
  }
  if (waiting_.empty()) return {};
  const fs::path first = waiting_.front();
  waiting_.erase(waiting_.begin());
  return first;
}

void FolderWatch::giveBack(const fs::path& file) {
  if (folder_) folder_->giveBack(file);
}

} // namespace ml
