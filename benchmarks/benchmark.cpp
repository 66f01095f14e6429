// Align and merge against OpenCV's AlignMTB and MergeDebevec on the same five frames in the same run: medians and ratios.
// ml_benchmark [WIDTH HEIGHT]
#include "align/register.h"
#include "base/parallel.h"
#include "image/colour.h"
#include "merge/merge.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <functional>
#include <opencv2/photo.hpp>
#include <vector>

using namespace ml;

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

/// Textured radiance over about eleven stops, shifted by a few pixels from frame to frame.
std::uint8_t code(int x, int y, int c, double exposure) {
  const double log = 3 * std::sin(x * 0.013) + 2 * std::sin(y * 0.017 + c) + std::sin((x + y) * 0.21) + 0.5 * std::sin(x * 0.9) * std::sin(y * 0.8);
  return std::uint8_t(std::lround(srgbEncode(std::min(1.0, std::exp2(log - 4) * exposure)) * 255));
}

void say(const char* what, double ours, double theirs) { std::printf("%-16s ours %7.3f s   OpenCV %7.3f s   ratio %.1f\n", what, ours, theirs, theirs / ours); }

} // namespace

int main(int count, char** arguments) {
  const int width = count > 2 ? std::atoi(arguments[1]) : 3000, height = count > 2 ? std::atoi(arguments[2]) : 2000;
  cv::setNumThreads(2);
  setThreadCount(2);
  std::vector<Frame> frames;
  std::vector<cv::Mat> images;
  std::vector<float> times;
  for (int i = 0; i < 5; ++i) {
    const double time = std::exp2(2 * i - 9);
    Frame frame;
    Image<std::uint8_t> codes(width, height, 3);
    cv::Mat image(height, width, CV_8UC3);
    for (int y = 0; y < height; ++y)
      for (int x = 0; x < width; ++x)
        for (int c = 0; c < 3; ++c) image.at<cv::Vec3b>(y, x)[2 - c] = codes.at(x, y)[c] = code(x + 3 * i, y - 2 * i, c, time * 32);
    frame.codes = std::move(codes);
    frame.table = srgbTable(255);
    frame.noise = noiseOf(frame.table, 40000, 3.5);
    frame.settings = {{time}, {8}, {100}};
    frames.push_back(std::move(frame));
    images.push_back(image);
    times.push_back(float(time));
  }
  std::printf("%d x %d pixels, five frames, two threads each, medians of three\n", width, height);
  std::vector<Registration> placed;
  const double ourAlign = medianSeconds(3, [&] { placed = *registerFrames(frames, 2, AlignMode::Rigid, {}); });
  const double theirAlign = medianSeconds(3, [&] {
    std::vector<cv::Mat> aligned;
    cv::createAlignMTB(6)->process(images, aligned);
  });
  say("align", ourAlign, theirAlign);
  std::vector<PlacedFrame> toMerge;
  for (std::size_t i = 0; i < frames.size(); ++i) toMerge.push_back({&frames[i], placed[i].transform.h});
  MergeOptions options;
  options.reference = 2;
  const double ourMotion = medianSeconds(3, [&] { (void)mergeRadiance(toMerge, options, {}); });
  options.motion = MotionMode::Off;
  const double ourMerge = medianSeconds(3, [&] { (void)mergeRadiance(toMerge, options, {}); });
  const double theirMerge = medianSeconds(3, [&] {
    cv::Mat merged;
    cv::createMergeDebevec()->process(images, merged, times);
  });
  say("merge", ourMerge, theirMerge);
  say("merge, motion on", ourMotion, theirMerge);
  return 0;
}
