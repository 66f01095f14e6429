// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/job.h"

#include "base/atomic_file.h"
#include "base/phrase.h"
#include "base/slug.h"
#include "session/job_documents.h"
#include "session/load_view.h"

#include <algorithm>
#include <cctype>
#include <cstdlib>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ml {
namespace fs = std::filesystem;
using nlohmann::json;

Result<Job> Job::create(const fs::path& folder, const std::string& name) {
  std::error_code error;
  if (fs::exists(folder / "job.json", error))
    return fail(ErrorCode::CannotWrite,
                phrase("`{}` already holds a job; open it or choose another folder.", folder.string()));
  if (auto made = makeFolder(folder); !made) return passOn(made.error());
  Job job;
  job.folder_ = folder;
  job.name_ = name;
  if (auto saved = job.save(); !saved) return passOn(saved.error());
  return job;
}

Result<Job> Job::open(const fs::path& folder) {
  auto document = readJson(folder / "job.json");
  if (!document) return passOn(document.error());
  if (auto known = refuseNewer(folder); !known) return passOn(known.error());
  clearLeftovers(folder);
  Job job;
  job.folder_ = folder;
  job.extra_ = document->dump();
  job.name_ = document->value("name", folder.filename().string());
  for (const auto& entry : document->value("views", json::array())) {
    if (!entry.is_string())
      return fail(ErrorCode::FileUnreadable,
                  phrase("`{}` is damaged; put it back from a copy.", (folder / "job.json").string()));
    auto view = loadView(folder / "views" / fs::path(entry.get<std::string>()).filename());
    if (!view) return passOn(view.error());
    job.views_.push_back(std::move(*view));
  }
  return job;
}

/// The next number that no folder of a view has, taken out or not.
fs::path Job::freeFolder(const std::string& name) const {
  std::error_code error;
  int number = 1;
  for (const auto& entry : fs::directory_iterator(folder_ / "views", error)) {
    const std::string there = entry.path().filename().string();
    if (there.size() > 2 && std::isdigit(static_cast<unsigned char>(there[0])))
      number = std::max(number, std::atoi(there.c_str()) + 1);
  }
  return folder_ / "views" / fmt::format("{:02d}-{}", number, slug(name, "view"));
}

Result<std::size_t> Job::take(View view, std::size_t index) {
  index = std::min(index, views_.size());
  views_.insert(views_.begin() + std::ptrdiff_t(index), std::move(view));
  if (auto saved = save(); !saved) {
    views_.erase(views_.begin() + std::ptrdiff_t(index));
    return passOn(saved.error());
  }
  return index;
}

Result<std::size_t> Job::addView(const std::string& name, const std::string& world, const std::string& camera) {
  View view;
  view.name = name;
  view.world = world;
  view.camera = camera;
  view.folder = freeFolder(name);
  if (auto made = makeFolder(view.folder); !made) return passOn(made.error());
  if (auto saved = view.savePlan(); !saved) return passOn(saved.error());
  return take(std::move(view), views_.size());
}

Result<std::size_t> Job::duplicateView(std::size_t of, const std::string& name) {
  View view = views_.at(of);
  view.name = name;
  view.folder = freeFolder(name);
  view.combined.reset();
  view.radianceStamp.clear();
  view.finishSeen.clear();
  view.delivered.clear();
  view.spent.clear();
  view.events.clear();
  if (!view.world.empty()) { // shot into the other view: this one is shot anew
    view.sets.clear();
    view.activeSet = -1;
    view.frames.clear();
  }
  if (auto made = makeFolder(view.folder); !made) return passOn(made.error());
  for (const auto& saved : {view.savePlan(), view.saveFrames(), view.saveFinish()})
    if (!saved) return passOn(saved.error());
  return take(std::move(view), of + 1);
}

Result<void> Job::removeView(std::size_t index) {
  View gone = std::move(views_.at(index));
  views_.erase(views_.begin() + std::ptrdiff_t(index));
  if (auto saved = save(); !saved) {
    views_.insert(views_.begin() + std::ptrdiff_t(index), std::move(gone));
    return passOn(saved.error());
  }
  return {};
}

Result<void> Job::bringBack(const std::string& folder, std::size_t index) {
  auto view = loadView(folder_ / "views" / fs::path(folder).filename());
  if (!view) return passOn(view.error());
  if (auto taken = take(std::move(*view), index); !taken) return passOn(taken.error());
  return {};
}

Result<void> Job::save() const {
  json list = json::array();
  for (const auto& view : views_) list.push_back(view.folder.filename().string());
  return writeJson(folder_ / "job.json", {{"name", name_}, {"views", list}}, extra_);
}

} // namespace ml
