#include "pipeline/inspect.h"

#include <fmt/format.h>

namespace ml {
namespace {

InspectedSet inspectSet(const FileGroup& group, const Progress& progress) {
  InspectedSet set{group, {}, {}};
  JudgeSetup setup;
  setup.support = Support::Unknown;
  SetJudge judge(setup);
  for (const auto& file : group.files) {
    if (progress.stopRequested()) return set;
    const auto frame = loadFrame(file.path);
    if (!frame) {
      set.verdict.sentence = frame.error().message;
      return set;
    }
    judge.add(*frame);
  }
  set.frames = judge.frames();
  set.verdict = judge.verdict(true);
  return set;
}

} // namespace

std::vector<InspectedSet> inspectSets(const Grouping& grouping, const Progress& progress) {
  std::vector<InspectedSet> sets;
  for (std::size_t i = 0; i < grouping.sets.size() && !progress.stopRequested(); ++i) {
    progress.at(fmt::format("Set {} of {}", i + 1, grouping.sets.size()), double(i) / double(grouping.sets.size()));
    sets.push_back(inspectSet(grouping.sets[i], progress));
  }
  return sets;
}

} // namespace ml
