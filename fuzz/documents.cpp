// SPDX-License-Identifier: GPL-3.0-or-later
// JSON from elsewhere: camera profiles, plans, recipes, and the files of a view.
#include "base/atomic_file.h"
#include "finish/recipe.h"
#include "pipeline/curve_shelf.h"
#include "pipeline/report.h"
#include "session/delivery_queue.h"
#include "session/job.h"

#include <cstdlib>
#include <nlohmann/json.hpp>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
  const std::string text(reinterpret_cast<const char*>(data), size);
  const auto document = nlohmann::json::parse(text, nullptr, false);
  if (document.is_object()) {
    (void)ml::profileFromJson(document);
    (void)ml::planFromJson(document);
  }
  (void)ml::recipeFromJson(text);
  (void)ml::curveFromText(text);
  if (const auto orders = ml::ordersFromJson(text)) (void)ml::toJson(*orders);
  static const std::filesystem::path folder = [] {
    char name[] = "/tmp/ml-fuzz-XXXXXX";
    const std::filesystem::path made = ::mkdtemp(name);
    std::filesystem::create_directories(made / "views/01-a");
    (void)ml::writeTextAtomically(made / "job.json", R"({"version": 1, "views": ["01-a"]})");
    return made;
  }();
  for (const char* file : {"plan.json", "frames.json", "combine.json", "finish.json", "journal.json"})
    (void)ml::writeTextAtomically(folder / "views/01-a" / file, text);
  (void)ml::Job::open(folder);
  return 0;
}
