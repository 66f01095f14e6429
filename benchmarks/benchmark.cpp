// Our stages against OpenCV's on the same five frames in the same run: medians of three and ratios, two threads each.
// ml_benchmark [WIDTH HEIGHT]         align, radiance merge, exposure fusion, and the whole way from JPEG files to EXR and JPEG
// ml_benchmark --curve                how our whole way grows with pixels and frames
#include "align/register.h"
#include "base/parallel.h"
#include "codec/exif.h"
#include "codec/jpeg.h"
#include "deliver/deliver.h"
#include "finish/finish.h"
#include "image/colour.h"
#include "ingest/load_frame.h"
#include "merge/fusion.h"
#include "pipeline/run.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <functional>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/photo.hpp>
#include <sys/resource.h>
#include <vector>

using namespace ml;
namespace fs = std::filesystem;

namespace {

double medianSeconds(int runs, const std::function<void()>& work) {
  std::vector<double> times;
  for (int i = 0; i < runs; ++i) {
    const auto start = std::chrono::steady_clock::now();
    work();
    times.push_back(std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count());
  }
  std::sort(times.begin(), times.end());
  return times[times.size() / 2];
}

double peakGigabytes() {
  rusage usage{};
  getrusage(RUSAGE_SELF, &usage);
  return double(usage.ru_maxrss) / 1e6;
}

void say(const char* what, double ours, double theirs) { std::printf("%-34s ours %7.3f s   OpenCV %7.3f s   ratio %5.1f\n", what, ours, theirs, theirs / ours); }

/// Textured radiance over about eleven stops, held by hand: each frame shifted and turned a little.
fs::path writeFrames(int width, int height, int count) {
  const fs::path folder = fs::temp_directory_path() / ("ml-benchmark-" + std::to_string(width) + "x" + std::to_string(height) + "-" + std::to_string(count));
  fs::create_directories(folder);
  for (int i = 0; i < count; ++i) {
    const double angle = 0.002 * (i - count / 2), exposure = std::exp2(10.0 * i / std::max(1, count - 1) - 5);
    Image<std::uint8_t> image(width, height, 3);
    std::vector<std::uint8_t> encode(4097);
    for (int k = 0; k <= 4096; ++k) encode[std::size_t(k)] = std::uint8_t(std::lround(255 * srgbEncode(k / 4096.0)));
    forEachBand(height, [&](const Band& band) {
      for (int y = band.begin; y < band.end; ++y)
        for (int x = 0; x < width; ++x) {
          const float u = float(x * std::cos(angle) - y * std::sin(angle) + 7 * i), v = float(x * std::sin(angle) + y * std::cos(angle) - 4 * i);
          const float common = 2 * std::sin(u * 0.003f) + 0.5f * std::sin((u + v) * 0.05f) + 0.3f * std::sin(u * 0.31f) * std::sin(v * 0.27f);
          for (int c = 0; c < 3; ++c) {
            const float log = common + 1.5f * std::sin(v * 0.0043f + float(c) * 0.3f);
            image.at(x, y)[c] = encode[std::size_t(std::min(1.f, 0.18f * std::exp2(log) * float(exposure)) * 4096)];
          }
        }
    });
    const fs::path file = folder / ("frame-" + std::to_string(i) + ".jpg");
    if (!writeJpeg(file, image.view(), {92, false, {}})) std::exit(1);
    ShotMetadata metadata;
    metadata.time = Seconds{exposure / 64};
    metadata.aperture = FNumber{8};
    metadata.iso = Iso{100};
    if (!writeExif(file, metadata)) std::exit(1);
  }
  return folder;
}

std::vector<fs::path> filesIn(const fs::path& folder) {
  std::vector<fs::path> files;
  for (const auto& entry : fs::directory_iterator(folder)) files.push_back(entry.path());
  std::sort(files.begin(), files.end());
  return files;
}

/// From JPEG files to OpenEXR and a finished JPEG.
void wholeWay(const fs::path& frames) {
  RunOptions options;
  options.out = frames.parent_path() / "ml-benchmark-out";
  fs::remove_all(options.out); // else nothing would be left to do
  fs::create_directories(options.out);
  if (!runAll({frames}, options, {}, {})) std::exit(1);
}

void curve() {
  std::printf("%-28s %10s %10s %14s\n", "whole way, JPEG to EXR, JPEG", "seconds", "peak GB", "ns/px/frame");
  for (const auto& [width, height, count] : {std::tuple{2100, 1400, 5}, {3000, 2000, 5}, {4200, 2800, 5}, {6000, 4000, 3}, {6000, 4000, 5}, {6000, 4000, 9}, {8200, 5500, 9}}) {
    const fs::path folder = writeFrames(width, height, count);
    const double seconds = medianSeconds(1, [&] { wholeWay(folder); });
    std::printf("%d x %d, %d frames %16.2f %10.2f %14.1f\n", width, height, count, seconds, peakGigabytes(), seconds * 1e9 / (double(width) * height * count));
    std::fflush(stdout);
    fs::remove_all(folder);
  }
}

} // namespace

int main(int count, char** arguments) {
  cv::setNumThreads(2);
  setThreadCount(2);
  if (count > 1 && std::strcmp(arguments[1], "--curve") == 0) {
    curve();
    return 0;
  }
  const int width = count > 2 ? std::atoi(arguments[1]) : 6000, height = count > 2 ? std::atoi(arguments[2]) : 4000;
  const fs::path folder = writeFrames(width, height, 5);
  const auto files = filesIn(folder);
  std::printf("%d x %d pixels, five frames, two threads each, medians of three\n", width, height);
  const double ourWhole = medianSeconds(3, [&] { wholeWay(folder); });
  std::printf("whole way, peak memory %.2f GB\n", peakGigabytes());
  std::vector<Frame> frames;
  for (const auto& file : files) frames.push_back(std::move(*loadFrame(file)));
  std::vector<Registration> placed;
  const double ourAlign = medianSeconds(3, [&] { placed = *registerFrames(frames, 2, AlignMode::Rigid, {}); });
  std::vector<PlacedFrame> still, moved;
  for (std::size_t i = 0; i < frames.size(); ++i) {
    still.push_back({&frames[i], kIdentity3, 0});
    moved.push_back({&frames[i], placed[i].transform.h, 0.05});
  }
  MergeOptions plain;
  plain.reference = 2;
  plain.motion = MotionMode::Off;
  MergeOptions checked = plain;
  checked.motion = MotionMode::Medium;
  const double ourStill = medianSeconds(3, [&] { (void)mergeRadiance(still, plain, {}); });
  const double ourMoved = medianSeconds(3, [&] { (void)mergeRadiance(moved, plain, {}); });
  const double ourChecked = medianSeconds(3, [&] { (void)mergeRadiance(moved, checked, {}); });
  const double ourFusion = medianSeconds(3, [&] { (void)fuseExposures(still, plain, {}, {}); });
  frames.clear();

  std::vector<cv::Mat> images;
  std::vector<float> times;
  for (std::size_t i = 0; i < files.size(); ++i) {
    images.push_back(cv::imread(files[i]));
    times.push_back(float(std::exp2(10.0 * double(i) / 4 - 5) / 64));
  }
  const double theirAlign = medianSeconds(3, [&] {
    std::vector<cv::Mat> aligned;
    cv::createAlignMTB()->process(images, aligned);
  });
  cv::Mat merged;
  const double theirMerge = medianSeconds(3, [&] { cv::createMergeDebevec()->process(images, merged, times); });
  const double theirFusion = medianSeconds(3, [&] {
    cv::Mat fused;
    cv::createMergeMertens()->process(images, fused);
  });
  images.clear();
  const double theirWhole = medianSeconds(3, [&] {
    std::vector<cv::Mat> read, aligned;
    for (const auto& file : files) read.push_back(cv::imread(file));
    cv::createAlignMTB()->process(read, aligned);
    cv::Mat radiance, response, toned, bytes;
    cv::createCalibrateDebevec()->process(aligned, response, times);
    cv::createMergeDebevec()->process(aligned, radiance, times, response);
    cv::createTonemapReinhard()->process(radiance, toned);
    toned.convertTo(bytes, CV_8UC3, 255);
    cv::imwrite((folder.parent_path() / "ml-benchmark-theirs.hdr").string(), radiance);
    cv::imwrite((folder.parent_path() / "ml-benchmark-theirs.jpg").string(), bytes);
  });
  say("align (theirs: shift only)", ourAlign, theirAlign);
  say("merge, frames as they lie", ourStill, theirMerge);
  say("merge, turned and shifted frames", ourMoved, theirMerge);
  say("the same, moving things treated", ourChecked, theirMerge);
  say("exposure fusion", ourFusion, theirFusion);
  say("whole: five JPEG to EXR and JPEG", ourWhole, theirWhole);
  fs::remove_all(folder);
  return 0;
}
