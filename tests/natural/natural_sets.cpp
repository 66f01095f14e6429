// SPDX-License-Identifier: GPL-3.0-or-later
#include "natural/natural_sets.h"

#include "camera/simulated_camera.h"
#include "finish/finish.h"
#include "image/colour.h"
#include "pipeline/combine.h"
#include "session/locations.h"
#include "zoo/set.h"

#include <algorithm>
#include <cstdio>
#include <cstdlib>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/photo.hpp>

namespace ml::test {
namespace {

namespace fs = std::filesystem;

Picture pictureOf(const cv::Mat& bgr) {
  Picture out(bgr.cols, bgr.rows, 3);
  for (int y = 0; y < bgr.rows; ++y)
    for (int x = 0; x < bgr.cols; ++x)
      for (int c = 0; c < 3; ++c) out.at(x, y)[c] = bgr.at<cv::Vec3b>(y, x)[2 - c];
  return out;
}

/// A frame that stands on its side: which quarter turn makes it look like the finished picture.
int turnedLike(const cv::Mat& frame, const Picture& finished) {
  double best = -1e18;
  int which = cv::ROTATE_90_CLOCKWISE;
  for (const int turn : {cv::ROTATE_90_CLOCKWISE, cv::ROTATE_90_COUNTERCLOCKWISE}) {
    cv::Mat turned;
    cv::rotate(frame, turned, turn);
    double sum = 0, a = 0, b = 0, n = 0;
    for (int y = 0; y < finished.height() && y < turned.rows; ++y)
      for (int x = 0; x < finished.width() && x < turned.cols; ++x) {
        const double p = turned.at<cv::Vec3b>(y, x)[1], q = finished.at(x, y)[1];
        sum += p * q, a += p, b += q, ++n;
      }
    if (const double alike = sum - a * b / n; alike > best) best = alike, which = turn;
  }
  return which;
}

NaturalSet made(const std::string& name, std::vector<fs::path> files) {
  NaturalSet set;
  set.name = name;
  std::sort(files.begin(), files.end());
  const auto combined = combineFiles(files, {}, {});
  if (!combined) std::fprintf(stderr, "%s: %s\n", name.c_str(), combined.error().message.c_str()), std::abort();
  const auto finished = finishRadiance(combined->radiance.view(), {}, sceneFacts(*combined), nullptr, {});
  if (!finished) std::abort();
  set.ours = Picture(finished->picture.width(), finished->picture.height(), 3);
  for (std::size_t i = 0; i < set.ours.size(); ++i)
    set.ours.data()[i] = std::uint8_t((finished->picture.data()[i] + 128) / 257);
  set.light = Image<float>(set.ours.width(), set.ours.height(), 1);
  for (int y = 0; y < set.light.height(); ++y)
    for (int x = 0; x < set.light.width(); ++x) *set.light.at(x, y) = luminance(combined->radiance.at(x, y));
  std::vector<cv::Mat> read;
  for (const auto& file : files) {
    cv::Mat frame = cv::imread(file.string(), cv::IMREAD_COLOR | cv::IMREAD_IGNORE_ORIENTATION);
    if (frame.cols == combined->fullHeight && frame.rows == combined->fullWidth)
      cv::rotate(frame, frame, turnedLike(frame, set.ours));
    frame = frame(cv::Rect(combined->crop.x, combined->crop.y, combined->crop.width, combined->crop.height)).clone();
    set.frames.push_back(pictureOf(frame));
    read.push_back(std::move(frame));
  }
  cv::Mat fused, codes;
  cv::createMergeMertens()->process(read, fused);
  fused.convertTo(codes, CV_8UC3, 255);
  set.theirs = pictureOf(codes);
  return set;
}

} // namespace

void forEachNaturalSet(int zooSets, bool worlds, const fs::path& folder,
                       const std::function<void(const NaturalSet&)>& use) {
  std::vector<fs::path> real;
  for (const auto& entry : fs::directory_iterator(fs::path(ML_SOURCE_DIR) / "tests/data/real_bracket"))
    if (entry.path().extension() == ".png") real.push_back(entry.path());
  use(made("real hall", real));
  for (int k = 0; k < zooSets; ++k) {
    zoo::SetOptions options;
    options.seed = 9000 + std::uint64_t(k);
    options.type = zoo::FileType::Jpeg;
    options.width = 768, options.height = 512;
    const fs::path into = folder / ("zoo" + std::to_string(k));
    fs::create_directories(into);
    const zoo::MadeSet set(zoo::sceneOf(std::uint64_t(k), options.width, options.height), options, into);
    std::vector<fs::path> files;
    for (const auto& f : set.frames) files.push_back(f.file);
    use(made("zoo " + std::to_string(k) + " " + zoo::kCurveNames[set.camera.curve.family], files));
  }
  if (!worlds) return;
  for (const char* id : {"reading_room", "boat_hall", "jetty_dusk"}) {
    auto loaded = World::load(*findWorld(id));
    if (!loaded) std::abort();
    PlanRequest request;
    request.low = {std::string(id) == "jetty_dusk" ? -3.0 : 0.0},
    request.high = {std::string(id) == "jetty_dusk" ? 11.0 : 14.3};
    CameraProfile camera = shippedProfiles().front();
    camera.hasRaw = false;
    const auto plan = planBracket(camera, request);
    SimulatedCamera simulated(std::make_shared<World>(loaded->shrunk(2)), plan->camera, {});
    std::vector<fs::path> files;
    fs::create_directories(folder / id);
    for (std::size_t i = 0; i < plan->frames.size(); ++i) {
      files.push_back(folder / id / ("frame" + std::to_string(i) + extensionOf(FrameFormat::Jpeg)));
      if (!simulated.expose(plan->frames[i], FrameFormat::Jpeg, files.back())) std::abort();
    }
    use(made(id, files));
  }
}

} // namespace ml::test
