// SPDX-License-Identifier: GPL-3.0-or-later
#include "farm/farm.h"

#include "base/atomic_file.h"
#include "base/phrase.h"

#include <nlohmann/json.hpp>

namespace ml {
namespace fs = std::filesystem;
using nlohmann::json;
namespace {

fs::path failureFile(const fs::path& out, const std::string& name) {
  return farmFolder(out) / "failed" / (name + ".json");
}

std::optional<Error> failureOf(const fs::path& out, const std::string& name) {
  const auto text = readText(failureFile(out, name));
  if (!text) return {};
  const json document = json::parse(*text, nullptr, false);
  if (!document.is_object()) return {};
  return Error{ErrorCode::CannotAlign, document.value("message", "")};
}

/// The report of a set is written last: where it is, all of the set is.
bool hasReport(const fs::path& out, const std::string& name) {
  std::error_code error;
  return fs::exists(out / (name + ".json"), error);
}

} // namespace

FarmState farmState(const FarmManifest& manifest, const fs::path& out) {
  FarmState state;
  state.sets = manifest.sets.size();
  for (std::size_t i = 0; i < manifest.sets.size(); ++i) {
    const std::string& name = manifest.sets[i].name;
    if (hasReport(out, name)) {
      ++state.made;
    } else if (const auto why = failureOf(out, name)) {
      ++state.failed;
      state.failures.push_back(name + ": " + why->message);
    } else {
      state.open.push_back(i);
    }
  }
  std::error_code error;
  state.joined = fs::exists(out / "report.json", error);
  return state;
}

void forgetStale(const FarmManifest& manifest, const std::vector<std::size_t>& open, const fs::path& out) {
  std::error_code ignored;
  for (const std::size_t i : open)
    for (const auto& file : {out / (manifest.sets[i].name + ".json"), failureFile(out, manifest.sets[i].name)})
      fs::remove(file, ignored);
  if (!open.empty()) fs::remove(out / "report.json", ignored);
}

Result<SetOutcome> makeFarmSet(const FarmManifest& manifest, std::size_t set, const RunOptions& options,
                               const Progress& progress) {
  const auto& wanted = manifest.sets[set];
  const auto view = viewOf(wanted);
  auto made = view ? makeView(*view, options, progress) : Result<SetOutcome>(passOn(view.error()));
  std::error_code ignored;
  if (made) {
    fs::remove(failureFile(options.out, wanted.name), ignored);
    return made;
  }
  if (made.error().code == ErrorCode::Stopped || made.error().code == ErrorCode::CannotWrite) return made;
  // What another machine has made meanwhile stays.
  if (!hasReport(options.out, wanted.name))
    if (auto written =
            writeTextAtomically(failureFile(options.out, wanted.name), json{{"message", made.error().message}}.dump());
        !written)
      return passOn(written.error());
  return failedView(RunView{wanted.name, {}}, options, made.error());
}

Result<RunSummary> joinFarm(const FarmManifest& manifest, const RunOptions& options) {
  RunSummary summary;
  summary.leftOut = manifest.leftOut;
  for (const auto& set : manifest.sets) {
    const auto view = viewOf(set);
    auto made = view ? viewMade(*view, options) : std::nullopt;
    if (made) {
      made->done = false; // it was made by this run, on whichever machine
      summary.sets.push_back(std::move(*made));
      continue;
    }
    const Error unmade{
        ErrorCode::Stopped,
        phrase("It is not made yet; `mellow-lantern-cli farm resume {}` makes what is missing.", options.out.string())};
    const Error why = !view ? view.error() : failureOf(options.out, set.name).value_or(unmade);
    summary.sets.push_back(failedView(view ? *view : RunView{set.name, {}}, options, why));
  }
  if (auto written = writeSummary(summary, options.out); !written) return passOn(written.error());
  return summary;
}

} // namespace ml
