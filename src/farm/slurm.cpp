// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/atomic_file.h"
#include "farm/farm.h"

#include <array>
#include <cstdio>
#include <fmt/format.h>
#include <map>
#include <nlohmann/json.hpp>
#include <sstream>

namespace ml {
namespace fs = std::filesystem;
using nlohmann::json;
namespace {

constexpr std::size_t kMostTasks = 1000; ///< Of one array: MaxArraySize is 1001 where nobody raised it.

std::string quoted(const std::string& text) {
  std::string out = "'";
  for (const char c : text) out += c == '\'' ? std::string("'\\''") : std::string(1, c);
  return out + "'";
}

/// What a command prints, and whether it said that it went well.
std::pair<std::string, bool> run(const std::string& command) {
  std::FILE* pipe = ::popen((command + " 2>&1").c_str(), "r");
  if (!pipe) return {"", false};
  std::string out;
  std::array<char, 4096> buffer{};
  while (const auto got = std::fread(buffer.data(), 1, buffer.size(), pipe)) out.append(buffer.data(), got);
  return {out, ::pclose(pipe) == 0};
}

Result<std::string> submit(const std::vector<std::string>& options, const fs::path& script) {
  std::string command = "sbatch --parsable";
  for (const auto& option : options) command += " " + quoted(option);
  const auto [said, well] = run(command + " " + quoted(script.string()));
  std::istringstream lines(said);
  std::string line, number;
  while (std::getline(lines, line)) // warnings may come first
    if (!line.empty() &&
        line.find_first_not_of("0123456789;abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ_-") ==
            std::string::npos &&
        std::isdigit(static_cast<unsigned char>(line.front())))
      number = line.substr(0, line.find(';'));
  if (well && !number.empty()) return number;
  if (said.find("not found") != std::string::npos)
    return fail(ErrorCode::InvalidArgument, "There is no Slurm here (sbatch is missing); install the package "
                                            "slurm-client on this machine, or use --engine local.");
  return fail(ErrorCode::InvalidArgument,
              "Slurm does not take the job: " + said.substr(0, said.find_last_not_of('\n') + 1));
}

std::string indexList(const std::vector<std::size_t>& sets) {
  std::string list;
  for (const std::size_t s : sets) list += (list.empty() ? "" : ",") + std::to_string(s);
  return list;
}

} // namespace

Result<std::vector<std::string>> submitToSlurm(const fs::path& program, const fs::path& out,
                                               const std::vector<std::size_t>& open) {
  const fs::path folder = farmFolder(out), logs = folder / "logs";
  std::error_code error;
  fs::create_directories(logs, error);
  std::vector<std::string> jobs;
  for (std::size_t first = 0; first < open.size(); first += kMostTasks) {
    const std::vector<std::size_t> part(open.begin() + std::ptrdiff_t(first),
                                        open.begin() + std::ptrdiff_t(std::min(open.size(), first + kMostTasks)));
    // Tasks of an array count from 0; which set each makes stands in the script.
    const fs::path script = folder / fmt::format("task-{}.sh", first / kMostTasks);
    if (auto written = writeTextAtomically(
            script,
            fmt::format(
                "#!/bin/sh\nset=$(echo {} | cut -d, -f$((SLURM_ARRAY_TASK_ID + 1)))\nexec {} farm task {} \"$set\"\n",
                indexList(part), quoted(program.string()), quoted(out.string())));
        !written)
      return passOn(written.error());
    auto job = submit({fmt::format("--array=0-{}", part.size() - 1), "--requeue", "--job-name=mellow-lantern",
                       "--open-mode=append", "--output=" + (logs / "%A-%a.txt").string(), "--cpus-per-task=1"},
                      script);
    if (!job) return passOn(job.error());
    jobs.push_back(*job);
  }
  const fs::path script = folder / "join.sh";
  if (auto written = writeTextAtomically(
          script, fmt::format("#!/bin/sh\nexec {} farm join {}\n", quoted(program.string()), quoted(out.string())));
      !written)
    return passOn(written.error());
  std::string after = "--dependency=afterany";
  for (const auto& job : jobs) after += ":" + job;
  auto join = submit({after, "--requeue", "--job-name=mellow-lantern-join", "--output=" + (logs / "join.txt").string()},
                     script);
  if (!join) return passOn(join.error());
  jobs.push_back(*join);
  if (auto written = writeTextAtomically(folder / "jobs.json", json(jobs).dump()); !written)
    return passOn(written.error());
  return jobs;
}

std::string slurmSays(const fs::path& out) {
  const auto text = readText(farmFolder(out) / "jobs.json");
  const json jobs = text ? json::parse(*text, nullptr, false) : json();
  if (!jobs.is_array() || jobs.empty()) return {};
  std::string list;
  for (const auto& job : jobs)
    if (job.is_string() && job.get<std::string>().find_first_not_of("0123456789") == std::string::npos)
      list += (list.empty() ? "" : ",") + job.get<std::string>();
  const auto [said, well] = run("squeue --noheader --array --jobs=" + list + " --format=%T");
  if (!well) return {};
  std::map<std::string, int> states;
  std::istringstream lines(said);
  for (std::string line; std::getline(lines, line);) ++states[line];
  const int running = states["RUNNING"] + states["COMPLETING"], waiting = states["PENDING"] + states["CONFIGURING"];
  return running + waiting > 0 ? fmt::format("{} running, {} waiting", running, waiting) : "";
}

} // namespace ml
