// SPDX-License-Identifier: GPL-3.0-or-later
#include "tether/set_record.h"

#include "base/atomic_file.h"
#include "base/phrase.h"
#include "base/plain_name.h"

#include <nlohmann/json.hpp>

namespace ml {
namespace fs = std::filesystem;
using nlohmann::json;
namespace {

constexpr std::size_t kMostEntries = 10000;

} // namespace

std::string toText(const SetRecord& record) {
  json entries = json::array();
  for (const auto& e : record.entries)
    entries.push_back({{"time", e.settings.time.value},
                       {"aperture", e.settings.aperture.value},
                       {"iso", e.settings.iso.value},
                       {"file", e.file},
                       {"on_camera", e.onCamera}});
  return json{{"version", 1}, {"before", record.before}, {"frames", entries}}.dump(1, ' ', false,
                                                                                   json::error_handler_t::replace);
}

Result<SetRecord> setRecordFrom(const std::string& text) {
  const auto wrong = [] {
    return fail(ErrorCode::FileUnreadable,
                phrase("`camera-set.json` cannot be read; the frames beside it are not touched."));
  };
  const json document = json::parse(text, nullptr, false);
  if (!document.is_object()) return wrong();
  SetRecord record;
  try {
    if (document.value("version", 0) != 1) return wrong();
    for (const auto& name : document.value("before", json::array())) record.before.insert(name.get<std::string>());
    for (const auto& e : document.value("frames", json::array())) {
      SetRecord::Entry entry{
          {{e.at("time").get<double>()}, {e.at("aperture").get<double>()}, {e.at("iso").get<double>()}},
          e.at("file").get<std::string>(),
          e.value("on_camera", "")};
      const auto& s = entry.settings;
      if (!(s.time.value > 0 && s.aperture.value > 0 && s.iso.value > 0) || !isPlainName(entry.file)) return wrong();
      record.entries.push_back(entry);
      if (record.entries.size() > kMostEntries) return wrong();
    }
  } catch (const json::exception&) {
    return wrong();
  }
  return record;
}

std::optional<SetRecord> SetRecord::load(const fs::path& folder) {
  const auto text = readText(folder / kName);
  const auto record = text ? setRecordFrom(*text) : Result<SetRecord>(passOn(text.error()));
  return record ? std::optional(*record) : std::nullopt;
}

Result<void> SetRecord::save(const fs::path& folder) const {
  return writeTextAtomically(folder / kName, toText(*this));
}

std::optional<fs::path> frameAt(const fs::path& folder, const std::string& stem) {
  std::error_code error;
  std::optional<fs::path> found;
  for (const auto& entry : fs::directory_iterator(folder, error)) {
    const fs::path& file = entry.path();
    if (file.stem() != stem || !entry.is_regular_file(error)) continue;
    const bool jpeg = file.extension() == ".jpg" || file.extension() == ".jpeg";
    if (!found || !jpeg) found = file; // a raw goes before its JPEG
  }
  return found;
}

} // namespace ml
