// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/radiance_store.h"

#include <algorithm>

namespace ml {

std::shared_ptr<const CombinedPicture> RadianceStore::find(const std::string& view, const std::string& stamp) {
  const auto found = std::find_if(entries_.begin(), entries_.end(),
                                  [&](const Entry& e) { return e.view == view && e.stamp == stamp; });
  if (found == entries_.end()) return nullptr;
  entries_.splice(entries_.begin(), entries_, found);
  return found->picture;
}

void RadianceStore::keep(const std::string& view, const std::string& stamp,
                         std::shared_ptr<const CombinedPicture> picture) {
  if (find(view, stamp))
    entries_.front().picture = std::move(picture);
  else
    entries_.push_front({view, stamp, std::move(picture)});
  if (entries_.size() > kMost) entries_.pop_back();
}

void RadianceStore::clear() {
  entries_.clear();
  visited_.clear();
}

} // namespace ml
