// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/atomic_file.h"
#include "base/large_memory.h"
#include "base/parallel.h"
#include "base/phrase.h"
#include "base/spelled.h"
#include "support/scenes.h"

#include <QTest>
#include <barrier>
#include <fcntl.h>
#include <fstream>
#include <mutex>
#include <numeric>
#include <set>
#include <thread>

#include <sys/stat.h>
#include <sys/syscall.h>
#include <sys/wait.h>
#include <unistd.h>

using namespace ml;

// What reaches the kernel, in its order: these take the place of the C library's for the whole test.
static std::string kernelCalls;
extern "C" int fsync(int handle) {
  struct stat what {};
  fstat(handle, &what);
  kernelCalls += S_ISDIR(what.st_mode) ? "folder " : "file ";
  return int(syscall(SYS_fsync, handle));
}
extern "C" int rename(const char* from, const char* to) noexcept {
  kernelCalls += "rename ";
  return int(syscall(SYS_renameat, AT_FDCWD, from, AT_FDCWD, to));
}

class TestBase : public QObject {
  Q_OBJECT

private slots:
  void bandsCoverEveryRowOnce() {
    std::vector<std::atomic<int>> seen(1001);
    QVERIFY(forEachBand(1001, [&](const Band& band) {
      for (int y = band.begin; y < band.end; ++y) ++seen[y];
    }));
    for (const auto& count : seen) QCOMPARE(count.load(), 1);
  }

  // Sums of floats depend on their order: joined in band order they are the same bits, however many threads there are.
  void sumsDoNotDependOnThreads() {
    const auto sum = [](int threads) {
      setThreadCount(threads);
      std::vector<float> bands(std::size_t(bandCount(777)));
      forEachBand(777, [&](const Band& band) {
        for (int y = band.begin; y < band.end; ++y) bands[std::size_t(band.index)] += 1 / float(1 + y * y % 101);
      });
      setThreadCount(0);
      return std::accumulate(bands.begin(), bands.end(), 0.f);
    };
    QCOMPARE(sum(1), sum(3));
    QCOMPARE(bandCount(777), 25);
  }

  // Two bands that wait for each other end only when two threads work at once.
  void twoThreadsWorkAtOnce() {
    setThreadCount(2);
    std::barrier both(2);
    QVERIFY(forEachBand(2 * kBandRows, [&](const Band&) { both.arrive_and_wait(); }));
    setThreadCount(0);
  }

  void whatABandThrowsArrivesAtTheCaller() {
    for (const int threads : {1, 4}) {
      setThreadCount(threads);
      std::atomic<int> begun{0};
      QVERIFY_EXCEPTION_THROWN(forEachBand(100000,
                                           [&](const Band& band) {
                                             ++begun;
                                             if (band.index % 2 == 1) throw std::bad_alloc();
                                           }),
                               std::bad_alloc);
      QVERIFY2(begun < 200, "the other bands go on though the work is lost");
      setThreadCount(0);
    }
  }

  void oneOfManyPiecesStaysOnItsThread() {
    setThreadCount(4);
    const auto threads = [] {
      std::mutex lock;
      std::set<std::thread::id> used;
      std::atomic<int> arrived{0};
      forEachBand(32 * 64, [&](const Band&) {
        const std::lock_guard guard(lock);
        used.insert(std::this_thread::get_id());
        ++arrived;
      });
      if (arrived != 64) used.clear();
      return used;
    };
    {
      const OnThisThread alone;
      QVERIFY((threads() == std::set<std::thread::id>{std::this_thread::get_id()}));
      std::set<std::thread::id> others;
      std::thread([&] { others = threads(); }).join(); // another thread is free to share its work
      QVERIFY(!others.empty());
    }
    QVERIFY(!threads().empty());
    setThreadCount(0);
  }

  void stopEndsEarly() {
    StopFlag stop;
    std::atomic<int> done{0};
    const bool finished = forEachBand(100000, stop, [&](const Band&) {
      if (++done == 5) stop.request();
    });
    QVERIFY(!finished);
    QVERIFY(done < 100);
  }

  void memoryIsReusedOnlyWhileSomebodyAsksForIt() {
    constexpr std::size_t size = std::size_t{8} << 20;
    {
      const MemoryReuse reuse;
      void* first = allocateLarge(size);
      FreeLarge{size}(first);
      QCOMPARE(MemoryReuse::keptBytes(), size);
      void* smaller = allocateLarge(size - size / 8); // a little smaller: the same block
      QCOMPARE(smaller, first);
      QCOMPARE(MemoryReuse::keptBytes(), std::size_t{0});
      FreeLarge{size - size / 8}(smaller);
      void* muchSmaller = allocateLarge(size / 2); // would waste half of it; what is kept shrinks by what is new
      QVERIFY(MemoryReuse::keptBytes() <= size / 2);
      FreeLarge{size / 2}(muchSmaller);
      { const MemoryReuse another; }
      QVERIFY(MemoryReuse::keptBytes() > 0); // the first still asks
    }
    QCOMPARE(MemoryReuse::keptBytes(), std::size_t{0});
    FreeLarge{size}(allocateLarge(size));
    QCOMPARE(MemoryReuse::keptBytes(), std::size_t{0});
  }

  // What is in use and kept is never more than was once in use, but as much as that: small pictures in between do not
  // drive out large ones.
  void reusedMemoryReachesWhatWasOnceInUse() {
    constexpr std::size_t large = std::size_t{8} << 20, small = std::size_t{1} << 20;
    const MemoryReuse reuse;
    std::vector<void*> blocks;
    for (int i = 0; i < 8; ++i) blocks.push_back(allocateLarge(large));
    for (void* block : blocks) FreeLarge{large}(block);
    QCOMPARE(MemoryReuse::keptBytes(), 8 * large);
    blocks.clear();
    for (std::size_t i = 1; i <= 8; ++i) {
      blocks.push_back(allocateLarge(small));
      QVERIFY(MemoryReuse::keptBytes() + i * small <= 8 * large);
    }
    QCOMPARE(MemoryReuse::keptBytes(), 7 * large);
    for (void* block : blocks) FreeLarge{small}(block);
    QCOMPARE(MemoryReuse::keptBytes(), 8 * large);
  }

  void bothAtOnceAreBothDone() {
    for (const int threads : {1, 2}) {
      setThreadCount(threads);
      int one = 0, other = 0;
      inParallel([&] { one = 1; }, [&] { other = 2; });
      QCOMPARE(one + other, 3);
    }
    setThreadCount(0);
  }

  void failedWriteKeepsTheOldFile() {
    QTemporaryDir dir;
    const auto file = test::pathOf(dir) / "a.json";
    QVERIFY(writeTextAtomically(file, "old").has_value());
    const auto failed = writeAtomically(file, [](const std::filesystem::path& temporary) -> Result<void> {
      std::ofstream(temporary) << "half";
      return fail(ErrorCode::CannotWrite, "no space");
    });
    QVERIFY(!failed);
    QCOMPARE(int(failed.error().code), int(ErrorCode::CannotWrite));
    QCOMPARE(*readText(file), std::string("old"));
    int files = 0;
    for ([[maybe_unused]] const auto& entry : std::filesystem::directory_iterator(test::pathOf(dir))) ++files;
    QCOMPARE(files, 1);
  }

  // A name on disk must never stand for bytes that are not: the file is flushed, then renamed, then the folder that
  // knows the name.
  void aNameIsWrittenAfterItsBytes() {
    QTemporaryDir dir;
    kernelCalls.clear();
    QVERIFY(writeTextAtomically(test::pathOf(dir) / "a.json", "new").has_value());
    QCOMPARE(kernelCalls, std::string("file rename folder "));
  }

  void onlyTheFilesOfDeadWritersAreCleared() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    const pid_t gone = fork();
    if (gone == 0) _exit(0);
    int status = 0;
    waitpid(gone, &status, 0);
    const auto living = folder / (".a.part-" + std::to_string(getpid()) + ".json"),
               dead = folder / (".a.part-" + std::to_string(gone) + ".json");
    for (const auto& file : {living, dead, folder / "a.part-1.json"}) std::ofstream(file) << "x";
    clearLeftovers(folder);
    QVERIFY(std::filesystem::exists(living));
    QVERIFY(!std::filesystem::exists(dead));
    QVERIFY(std::filesystem::exists(folder / "a.part-1.json"));
  }

  // A translation may name its values out of order; one that does not fit them is passed over, and what has none stays.
  void sentencesAreTurned() {
    QCOMPARE(phrase("{} of {}", 2, 5), std::string("2 of 5"));
    speak({[](std::string_view english) -> std::string {
             if (english == "{} of {}") return "von {1} das {0}.";
             if (english == "{:.1f} stops") return "{:.1Lf} Blenden";
             if (english == "too {}") return "zu {} {}";
             if (english == "odd {}") return "schief {";
             return english == "Two" ? "Zwei" : "";
           },
           ','});
    QCOMPARE(phrase("{} of {}", 2, 5), std::string("von 5 das 2."));
    QCOMPARE(phrase("{:.1f} stops", 1.25), std::string("1,2 Blenden"));
    QCOMPARE(phrase("too {}", "dark"), std::string("too dark"));
    QCOMPARE(phrase("odd {}", 1), std::string("odd 1"));
    QCOMPARE(phrase("nobody knows {:.1f}", 1.25), std::string("nobody knows 1.2"));
    QCOMPARE(phrase("{view}"), std::string("{view}")); // no values: braces are themselves
    QCOMPARE(spelled(2), std::string("Zwei"));
    QCOMPARE(spelled(3), std::string("Three"));
    speak({});
    QCOMPARE(spelled(12), std::string("12"));
    QCOMPARE(spelled(12, 12), std::string("Twelve"));
    QCOMPARE(spelled(13, 99), std::string("13"));
    QCOMPARE(withDecimalMark("f/5.6"), std::string("f/5.6"));
  }

  void unwritableFolderNamesTheFile() {
    const auto written = writeTextAtomically("/proc/nowhere/a.json", "x");
    QVERIFY(!written);
    QCOMPARE(int(written.error().code), int(ErrorCode::CannotWrite));
    QVERIFY(written.error().message.find("/proc/nowhere/a.json") != std::string::npos);
  }

  void missingFileIsSaid() {
    const auto text = readText("/nowhere/at/all");
    QVERIFY(!text);
    QCOMPARE(int(text.error().code), int(ErrorCode::FileMissing));
  }
};

QTEST_GUILESS_MAIN(TestBase)
#include "test_base.moc"
