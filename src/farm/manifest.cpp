// SPDX-License-Identifier: GPL-3.0-or-later
#include "farm/manifest.h"

#include "base/atomic_file.h"
#include "base/phrase.h"
#include "base/plain_name.h"

#include <nlohmann/json.hpp>

namespace ml {
namespace fs = std::filesystem;
using nlohmann::json;
namespace {

constexpr std::size_t kMostSets = 1000000;

} // namespace

fs::path farmFolder(const fs::path& out) {
  return out / "farm";
}

FarmManifest manifestOf(const RunPlan& plan) {
  FarmManifest manifest;
  for (const RunView& view : plan.views) {
    FarmManifest::Set set{view.name, {}};
    for (const FileGroup& group : view.groups) {
      set.groups.emplace_back();
      for (const auto& file : group.files) set.groups.back().push_back(fs::absolute(file.path));
    }
    manifest.sets.push_back(std::move(set));
  }
  manifest.leftOut = plan.leftOut;
  return manifest;
}

std::string toText(const FarmManifest& manifest) {
  json sets = json::array(), left = json::array();
  for (const auto& set : manifest.sets) {
    json groups = json::array();
    for (const auto& group : set.groups) {
      groups.push_back(json::array());
      for (const auto& file : group) groups.back().push_back(file.string());
    }
    sets.push_back({{"name", set.name}, {"groups", groups}});
  }
  for (const auto& l : manifest.leftOut)
    left.push_back({{"file", l.path.string()}, {"reason", l.reason.message}, {"companion", l.companion}});
  return json{{"version", 1},
              {"engine", manifest.engine},
              {"arguments", manifest.arguments},
              {"sets", sets},
              {"left_out", left}}
      .dump(1, ' ', false, json::error_handler_t::replace);
}

Result<FarmManifest> manifestFrom(const std::string& text) {
  const auto wrong = [] {
    return fail(ErrorCode::FileUnreadable, phrase("`farm/manifest.json` cannot be read; begin the farm again with its "
                                                  "card and the same folder: what is made already is kept."));
  };
  const json document = json::parse(text, nullptr, false);
  if (!document.is_object()) return wrong();
  FarmManifest manifest;
  try {
    if (document.value("version", 0) != 1) return wrong();
    manifest.engine = document.value("engine", "local");
    manifest.arguments = document.value("arguments", std::map<std::string, std::string>{});
    for (const auto& s : document.at("sets")) {
      FarmManifest::Set set{s.at("name").get<std::string>(), {}};
      if (!isPlainName(set.name) || manifest.sets.size() > kMostSets) return wrong();
      for (const auto& g : s.at("groups")) {
        set.groups.emplace_back();
        for (const auto& file : g) set.groups.back().emplace_back(file.get<std::string>());
        if (set.groups.back().empty()) return wrong();
      }
      if (set.groups.empty()) return wrong();
      manifest.sets.push_back(std::move(set));
    }
    for (const auto& l : document.value("left_out", json::array()))
      manifest.leftOut.push_back({l.at("file").get<std::string>(),
                                  {ErrorCode::FileUnreadable, l.value("reason", "")},
                                  l.value("companion", false)});
  } catch (const json::exception&) {
    return wrong();
  }
  return manifest;
}

Result<void> saveManifest(const FarmManifest& manifest, const fs::path& out) {
  return writeTextAtomically(farmFolder(out) / "manifest.json", toText(manifest));
}

Result<FarmManifest> loadManifest(const fs::path& out) {
  const auto text = readText(farmFolder(out) / "manifest.json");
  if (!text)
    return fail(ErrorCode::FileMissing,
                phrase("There is no farm in `{}`; begin one with `mellow-lantern-cli farm CARD --out {}`.",
                       out.string(), out.string()));
  return manifestFrom(*text);
}

Result<RunView> viewOf(const FarmManifest::Set& set) {
  RunView view{set.name, {}};
  for (const auto& files : set.groups) {
    FileGroup group;
    group.name = files.front().stem().string();
    for (const auto& file : files) {
      auto facts = inspectFile(file);
      if (!facts) return passOn(facts.error());
      group.files.push_back(std::move(*facts));
    }
    view.groups.push_back(std::move(group));
  }
  return view;
}

} // namespace ml
