// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/combined_picture.h"
#include "model/job_model.h"

#include <list>
#include <set>

namespace ml {

/// Keeps combined pictures at screen size, by view and stamp, the latest used ones; nothing is combined or read twice
/// while it is here. On the interface thread only.
class RadianceStore {
public:
  /// Null: it is to be loaded.
  [[nodiscard]] std::shared_ptr<const CombinedPicture> find(const std::string& view, const std::string& stamp);
  void keep(const std::string& view, const std::string& stamp, std::shared_ptr<const CombinedPicture> picture);
  /// For another job.
  void clear();
  /// True the first time since the job was opened: nobody can undo to what the view was combined to before.
  [[nodiscard]] bool firstVisit(const std::string& view) { return visited_.insert(view).second; }

private:
  static constexpr std::size_t kMost = 8;
  struct Entry {
    std::string view, stamp;
    std::shared_ptr<const CombinedPicture> picture;
  };
  std::list<Entry> entries_; ///< Latest used first.
  std::set<std::string> visited_;
};

} // namespace ml
