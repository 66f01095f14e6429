// SPDX-License-Identifier: GPL-3.0-or-later
// Our stages against OpenCV's on the same five frames in the same run: medians of three and ratios, two threads each.
// ml_benchmark [WIDTH HEIGHT]: align, radiance merge, exposure fusion, and the whole way from JPEG files to EXR and
// JPEG. ml_benchmark --curve: how our whole way grows with pixels and frames. ml_benchmark --raw: five raw frames of 24
// megapixels against five JPEG frames, and one against LibRaw's own ways. ml_benchmark --ours STAGE RUNS: one stage of
// ours alone on 6000 x 4000, for a profiler: align, still, moved, checked, fusion, whole, look, stages.
#include "align/register.h"
#include "base/large_memory.h"
#include "base/parallel.h"
#include "capture/developed.h"
#include "codec/exif.h"
#include "codec/jpeg.h"
#include "deliver/deliver.h"
#include "finish/finish.h"
#include "image/colour.h"
#include "ingest/load_frame.h"
#include "merge/fusion.h"
#include "pipeline/run.h"
#include "zoo/files.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <functional>
#include <libraw/libraw.h>
#include <map>
#include <mutex>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/photo.hpp>
#include <sys/resource.h>
#include <vector>

using namespace ml;
namespace fs = std::filesystem;

namespace {

/// `before` is not timed.
double medianSeconds(
    int runs, const std::function<void()>& work, const std::function<void()>& before = [] {}) {
  std::vector<double> times;
  for (int i = 0; i < runs; ++i) {
    before();
    const auto start = std::chrono::steady_clock::now();
    work();
    times.push_back(std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count());
  }
  std::sort(times.begin(), times.end());
  return times[times.size() / 2];
}

/// Counted from now on (proc(5), clear_refs).
void forgetPeak() {
  std::ofstream("/proc/self/clear_refs") << 5;
}

double peakGigabytes() {
  std::ifstream status("/proc/self/status");
  for (std::string line; std::getline(status, line);)
    if (line.starts_with("VmHWM:")) return std::stod(line.substr(6)) / 1e6;
  return 0;
}

/// Of both cores, kernel included.
double processorSeconds() {
  rusage usage{};
  getrusage(RUSAGE_SELF, &usage);
  const auto seconds = [](const timeval& time) { return double(time.tv_sec) + double(time.tv_usec) * 1e-6; };
  return seconds(usage.ru_utime) + seconds(usage.ru_stime);
}

void say(const char* what, double ours, double theirs) {
  std::printf("%-34s ours %7.3f s   OpenCV %7.3f s   ratio %5.1f\n", what, ours, theirs, theirs / ours);
}

fs::path folderOf(int width, int height, int count) {
  return fs::temp_directory_path() /
         ("ml-benchmark-" + std::to_string(width) + "x" + std::to_string(height) + "-" + std::to_string(count));
}

/// Textured radiance over about eleven stops, held by hand: each frame shifted and turned a little.
fs::path writeFrames(int width, int height, int count) {
  const fs::path folder = folderOf(width, height, count);
  fs::create_directories(folder);
  for (int i = 0; i < count; ++i) {
    const double angle = 0.002 * (i - count / 2), exposure = std::exp2(10.0 * i / std::max(1, count - 1) - 5);
    Image<std::uint8_t> image(width, height, 3);
    std::vector<std::uint8_t> encode(4097);
    for (int k = 0; k <= 4096; ++k) encode[std::size_t(k)] = std::uint8_t(std::lround(255 * srgbEncode(k / 4096.0)));
    forEachBand(height, [&](const Band& band) {
      for (int y = band.begin; y < band.end; ++y)
        for (int x = 0; x < width; ++x) {
          const float u = float(x * std::cos(angle) - y * std::sin(angle) + 7 * i),
                      v = float(x * std::sin(angle) + y * std::cos(angle) - 4 * i);
          const float common = 2 * std::sin(u * 0.003f) + 0.5f * std::sin((u + v) * 0.05f) +
                               0.3f * std::sin(u * 0.31f) * std::sin(v * 0.27f);
          for (int c = 0; c < 3; ++c) {
            const float log = common + 1.5f * std::sin(v * 0.0043f + float(c) * 0.3f);
            image.at(x, y)[c] = encode[std::size_t(std::min(1.f, 0.18f * std::exp2(log) * float(exposure)) * 4096)];
          }
        }
    });
    const fs::path file = folder / ("frame-" + std::to_string(i) + ".jpg");
    if (!writeJpeg(file, image.view(), {92, false, {}, false})) std::exit(1);
    ShotMetadata metadata;
    metadata.time = Seconds{exposure / 64};
    metadata.aperture = FNumber{8};
    metadata.iso = Iso{100};
    if (!writeExif(file, metadata)) std::exit(1);
  }
  return folder;
}

/// The same scene behind a colour filter, 14 bits, as DNG; `still`: from a tripod; `compressed`: as most cameras write
/// it, tiles of lossless JPEG.
fs::path writeRawFrames(int width, int height, int count, bool still, bool compressed) {
  const fs::path folder = fs::temp_directory_path() / ("ml-benchmark-raw-" + std::to_string(width) +
                                                       (still ? "-still" : "-hand") + (compressed ? "-tiles" : ""));
  if (fs::exists(folder / ("frame-" + std::to_string(count - 1) + ".dng"))) return folder;
  fs::create_directories(folder);
  zoo::Camera camera(1, zoo::FileType::Dng);
  camera.pattern = 0, camera.black = {512, 512, 512, 512}, camera.white = 16383, camera.compressed = compressed;
  for (int i = 0; i < count; ++i) {
    const double angle = still ? 0 : 0.002 * (i - count / 2),
                 exposure = std::exp2(10.0 * i / std::max(1, count - 1) - 5), step = still ? 0 : i;
    Image<std::uint16_t> mosaic(width, height, 1);
    forEachBand(height, [&](const Band& band) {
      std::uint32_t state = std::uint32_t(7919 * i + band.index + 1);
      for (int y = band.begin; y < band.end; ++y)
        for (int x = 0; x < width; ++x) {
          const float u = float(x * std::cos(angle) - y * std::sin(angle) + 7 * step),
                      v = float(x * std::sin(angle) + y * std::cos(angle) - 4 * step);
          const float common = 2 * std::sin(u * 0.003f) + 0.5f * std::sin((u + v) * 0.05f) +
                               0.3f * std::sin(u * 0.31f) * std::sin(v * 0.27f);
          const float light = 0.18f *
                              std::exp2(common + 1.5f * std::sin(v * 0.0043f + float((x & 1) + (y & 1)) * 0.3f)) *
                              float(exposure);
          state = state * 1664525u + 1013904223u;
          const float noise = (float(state >> 8) / 8388608.f - 1) * 1.7f * std::sqrt(light / 40000 + 8e-9f);
          mosaic.row(y)[x] = std::uint16_t(std::clamp(512 + (light + noise) * 15871, 0.f, 16383.f));
        }
    });
    zoo::Shot shot;
    shot.seconds = exposure / 64, shot.clock = i, shot.model = "Benchmark";
    zoo::writeDng(folder / ("frame-" + std::to_string(i) + ".dng"), camera, {1, 1, 1}, mosaic, shot);
  }
  return folder;
}

std::vector<fs::path> filesIn(const fs::path& folder) {
  std::vector<fs::path> files;
  for (const auto& entry : fs::directory_iterator(folder)) files.push_back(entry.path());
  std::sort(files.begin(), files.end());
  return files;
}

/// Where the whole way writes to, emptied: else nothing would be left to do.
fs::path emptyOut(const fs::path& frames) {
  const fs::path out = frames.parent_path() / "ml-benchmark-out";
  fs::remove_all(out);
  fs::create_directories(out);
  return out;
}

/// From JPEG files to OpenEXR and a finished JPEG.
void wholeWay(const fs::path& frames, const fs::path& out, const Progress& progress = {}) {
  RunOptions options;
  options.out = out;
  if (!runAll({frames}, options, progress, {})) std::exit(1);
}

void curve() {
  std::printf("%-28s %10s %10s %14s\n", "whole way, JPEG to EXR, JPEG", "seconds", "peak GB", "ns/px/frame");
  for (const auto& [width, height, count] : {std::tuple{2100, 1400, 5},
                                             {3000, 2000, 5},
                                             {4200, 2800, 5},
                                             {6000, 4000, 3},
                                             {6000, 4000, 5},
                                             {6000, 4000, 9},
                                             {8200, 5500, 9}}) {
    const fs::path folder = writeFrames(width, height, count), out = emptyOut(folder);
    const double seconds = medianSeconds(1, [&] { wholeWay(folder, out); });
    std::printf("%d x %d, %d frames %16.2f %10.2f %14.1f\n", width, height, count, seconds, peakGigabytes(),
                seconds * 1e9 / (double(width) * height * count));
    std::fflush(stdout);
    fs::remove_all(folder);
  }
}

/// Seconds of the wall and of the processor for the whole way.
std::pair<double, double> timedWay(const fs::path& frames) {
  const fs::path out = emptyOut(frames);
  const double processor = processorSeconds();
  const double wall = medianSeconds(1, [&] { wholeWay(frames, out); });
  return {wall, processorSeconds() - processor};
}

/// LibRaw's own development of one file, its own threads.
double libraryDevelops(const fs::path& file, int quality) {
  return medianSeconds(1, [&] {
    LibRaw raw;
    if (raw.open_file(file.c_str()) || raw.unpack()) std::exit(1);
    raw.imgdata.params.output_bps = 16, raw.imgdata.params.user_qual = quality, raw.imgdata.params.no_auto_bright = 1;
    if (raw.dcraw_process()) std::exit(1);
  });
}

std::vector<float> timesOf(std::size_t count) {
  std::vector<float> times;
  for (std::size_t i = 0; i < count; ++i) times.push_back(float(std::exp2(10.0 * double(i) / 4 - 5) / 64));
  return times;
}

// Their OpenEXR holds half floats compressed as ours; what it writes when nothing is said (floats, ZIP) takes longer.
const std::vector<int> kExrAsOurs{cv::IMWRITE_EXR_TYPE, cv::IMWRITE_EXR_TYPE_HALF, cv::IMWRITE_EXR_COMPRESSION,
                                  cv::IMWRITE_EXR_COMPRESSION_PIZ};

struct TheirFiles {
  fs::path exr = fs::temp_directory_path() / "ml-benchmark-theirs.exr",
           jpeg = fs::temp_directory_path() / "ml-benchmark-theirs.jpg";
  void remove() const { fs::remove(exr), fs::remove(jpeg); }
};

/// Frames of 8 bits to OpenEXR and JPEG by OpenCV.
void theirWay(const std::vector<cv::Mat>& read, const TheirFiles& out) {
  const std::vector<float> times = timesOf(read.size());
  std::vector<cv::Mat> aligned;
  cv::createAlignMTB()->process(read, aligned);
  cv::Mat radiance, response, toned, bytes;
  cv::createCalibrateDebevec()->process(aligned, response, times);
  cv::createMergeDebevec()->process(aligned, radiance, times, response);
  cv::createTonemapReinhard()->process(radiance, toned);
  toned.convertTo(bytes, CV_8UC3, 255);
  cv::imwrite(out.exr.string(), radiance, kExrAsOurs);
  cv::imwrite(out.jpeg.string(), bytes);
}

/// Raw files to OpenEXR and JPEG: developed by LibRaw, the rest by OpenCV.
void libraryWay(const std::vector<fs::path>& files) {
  std::vector<cv::Mat> read;
  for (const auto& file : files) {
    LibRaw raw;
    if (raw.open_file(file.c_str()) || raw.unpack()) std::exit(1);
    raw.imgdata.params.output_bps = 8, raw.imgdata.params.user_qual = 3, raw.imgdata.params.no_auto_bright = 1;
    if (raw.dcraw_process()) std::exit(1);
    libraw_processed_image_t* image = raw.dcraw_make_mem_image();
    read.push_back(cv::Mat(image->height, image->width, CV_8UC3, image->data).clone());
    LibRaw::dcraw_clear_mem(image);
  }
  const TheirFiles out;
  theirWay(read, out);
  out.remove();
}

void rawAgainstJpeg() {
  const fs::path jpeg = writeFrames(6000, 4000, 5);
  std::printf("%-44s %8s %10s\n", "five frames of 24 megapixels to EXR and JPEG", "seconds", "processor");
  const auto line = [](const char* what, const std::pair<double, double>& t) {
    std::printf("%-44s %8.2f %10.2f\n", what, t.first, t.second), std::fflush(stdout);
  };
  const auto fromJpeg = timedWay(jpeg);
  line("JPEG, by hand", fromJpeg);
  const fs::path still = writeRawFrames(6000, 4000, 5, true, false), hand = writeRawFrames(6000, 4000, 5, false, false),
                 tiles = writeRawFrames(6000, 4000, 5, true, true);
  forgetPeak();
  const auto onTripod = timedWay(still), inTiles = timedWay(tiles), byHand = timedWay(hand);
  const double peak = peakGigabytes();
  line("raw, on a tripod", onTripod);
  line("the same, losslessly compressed", inTiles);
  line("raw, by hand", byHand);
  const double before = processorSeconds(), theirs = medianSeconds(1, [&] { libraryWay(filesIn(still)); });
  line("LibRaw's AHD with OpenCV's parts", {theirs, processorSeconds() - before});
  const fs::path one = hand / "frame-2.dng";
  const double ours = medianSeconds(3, [&] { (void)developed(*loadFrame(one)); });
  std::printf("one raw frame read and developed: ours %.3f s\n", ours);
  for (const auto& [name, quality] : {std::pair{"linear", 0}, {"PPG", 2}, {"AHD", 3}, {"DHT", 11}}) {
    const double theirs = libraryDevelops(one, quality);
    std::printf("  LibRaw, %-8s %7.3f s   ratio %5.1f\n", name, theirs, theirs / ours);
  }
  std::printf(
      "raw on a tripod / JPEG %.2f, compressed %.2f, by hand %.2f; LibRaw and OpenCV / tripod %.1f; peak %.2f GB\n",
      onTripod.first / fromJpeg.first, inTiles.first / fromJpeg.first, byHand.first / fromJpeg.first,
      theirs / onTripod.first, peak);
}

/// Our stages on one set of files; frames are read once.
class Ours {
public:
  explicit Ours(const fs::path& folder) : folder_(folder) {}

  void read() {
    for (const auto& file : filesIn(folder_)) frames_.push_back(std::move(*loadFrame(file)));
    align();
    for (std::size_t i = 0; i < frames_.size(); ++i) {
      still_.push_back({&frames_[i], kIdentity3, 0});
      moved_.push_back({&frames_[i], placed_[i].transform.h, 0.05});
    }
    plain_.reference = checked_.reference = 2;
    plain_.motion = MotionMode::Off;
    checked_.motion = MotionMode::Medium;
  }
  void align() { placed_ = *registerFrames(frames_, 2, AlignMode::Rigid, {}); }
  void mergeStill() { (void)mergeRadiance(still_, plain_, {}); }
  void mergeMoved() { (void)mergeRadiance(moved_, plain_, {}); }
  void mergeChecked() { (void)mergeRadiance(moved_, checked_, {}); }
  void fuse() { (void)fuseExposures(still_, plain_, {}, {}); }
  void beforeWhole() { out_ = emptyOut(folder_); }
  void whole() { wholeWay(folder_, out_); }
  void firstLook() const {
    CombineOptions options;
    options.edge = 1400;
    auto combined = combineFiles(filesIn(folder_), options, {});
    if (!combined) std::exit(1);
    const ToneAnalysis analysis = analyseTone(combined->radiance.view(), combined->ev100OfUnit);
    (void)Finisher(analysis, nullptr).finish(combined->radiance.view(), {}, {});
  }

private:
  fs::path folder_, out_;
  std::vector<Frame> frames_;
  std::vector<Registration> placed_;
  std::vector<PlacedFrame> still_, moved_;
  MergeOptions plain_, checked_;
};

/// When each stage of the whole way is first heard of.
void sayStages(const fs::path& folder) {
  const fs::path out = emptyOut(folder);
  const double processor = processorSeconds();
  const auto start = std::chrono::steady_clock::now();
  std::string last;
  std::mutex saying;
  wholeWay(folder, out, {{}, [&](const std::string& stage, double) {
                           const std::lock_guard lock(saying);
                           if (stage == last) return;
                           last = stage;
                           std::printf("%7.3f s %7.3f processor s  %s\n",
                                       std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count(),
                                       processorSeconds() - processor, stage.c_str());
                         }});
  std::printf("%7.3f s %7.3f processor s  done\n",
              std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count(),
              processorSeconds() - processor);
}

int oursAlone(const std::string& stage, int runs) {
  const fs::path kept = folderOf(6000, 4000, 5),
                 folder = fs::exists(kept / "frame-4.jpg") ? kept : writeFrames(6000, 4000, 5);
  Ours ours(folder);
  if (stage != "whole" && stage != "stages" && stage != "look") ours.read();
  const std::map<std::string, std::function<void()>> stages{
      {"align", [&] { ours.align(); }},      {"still", [&] { ours.mergeStill(); }},
      {"moved", [&] { ours.mergeMoved(); }}, {"checked", [&] { ours.mergeChecked(); }},
      {"fusion", [&] { ours.fuse(); }},      {"whole", [&] { ours.whole(); }},
      {"look", [&] { ours.firstLook(); }},   {"stages", [&] { sayStages(folder); }}};
  const auto found = stages.find(stage);
  if (found == stages.end()) return 1;
  std::printf("%s %.3f s\n", stage.c_str(), medianSeconds(runs, found->second, [&] { ours.beforeWhole(); }));
  return 0;
}

} // namespace

int main(int count, char** arguments) {
  const MemoryReuse reuse; // as while many sets are combined; OpenCV's result is kept between its runs too
  cv::setNumThreads(2);
  ::setenv("OPENCV_IO_ENABLE_OPENEXR", "1", 1);
  setThreadCount(2);
  if (count > 1 && std::strcmp(arguments[1], "--raw") == 0) {
    rawAgainstJpeg();
    return 0;
  }
  if (count > 1 && std::strcmp(arguments[1], "--curve") == 0) {
    curve();
    return 0;
  }
  if (count > 3 && std::strcmp(arguments[1], "--ours") == 0) return oursAlone(arguments[2], std::atoi(arguments[3]));
  const int width = count > 2 ? std::atoi(arguments[1]) : 6000, height = count > 2 ? std::atoi(arguments[2]) : 4000;
  const fs::path folder = writeFrames(width, height, 5);
  const auto files = filesIn(folder);
  std::printf("%d x %d pixels, five frames, two threads each, medians of three\n", width, height);
  double ourWhole, ourAlign, ourStill, ourMoved, ourChecked, ourFusion;
  {
    Ours ours(folder);
    ourWhole = medianSeconds(
        3, [&] { ours.whole(); }, [&] { ours.beforeWhole(); });
    std::printf("first look at the set, merged and finished %.3f s\n", medianSeconds(3, [&] { ours.firstLook(); }));
    std::printf("whole way, peak memory %.2f GB\n", peakGigabytes());
    ours.read();
    ourAlign = medianSeconds(3, [&] { ours.align(); });
    ourStill = medianSeconds(3, [&] { ours.mergeStill(); });
    ourMoved = medianSeconds(3, [&] { ours.mergeMoved(); });
    ourChecked = medianSeconds(3, [&] { ours.mergeChecked(); });
    ourFusion = medianSeconds(3, [&] { ours.fuse(); });
  }

  std::vector<cv::Mat> images;
  for (const auto& file : files) images.push_back(cv::imread(file));
  const std::vector<float> times = timesOf(images.size());
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
  const TheirFiles out;
  const double theirWhole = medianSeconds(
      3,
      [&] {
        std::vector<cv::Mat> read;
        for (const auto& file : files) read.push_back(cv::imread(file));
        theirWay(read, out);
      },
      [&] { out.remove(); });
  const double theirExrAsOurs = medianSeconds(
      3, [&] { cv::imwrite(out.exr.string(), merged, kExrAsOurs); }, [&] { out.remove(); });
  const double theirExrByItself = medianSeconds(
      3, [&] { cv::imwrite(out.exr.string(), merged); }, [&] { out.remove(); });
  out.remove();
  say("align (theirs: shift only)", ourAlign, theirAlign);
  say("merge, frames as they lie", ourStill, theirMerge);
  say("merge, turned and shifted frames", ourMoved, theirMerge);
  say("the same, moving things treated", ourChecked, theirMerge);
  say("exposure fusion", ourFusion, theirFusion);
  say("whole: five JPEG to EXR and JPEG", ourWhole, theirWhole);
  say("  theirs with its usual EXR", ourWhole, theirWhole - theirExrAsOurs + theirExrByItself);
  fs::remove_all(folder);
  return 0;
}
