#include "base/atomic_file.h"
#include "base/large_memory.h"
#include "base/parallel.h"
#include "support/scenes.h"

#include <QTest>
#include <fstream>
#include <mutex>
#include <numeric>
#include <set>
#include <thread>

using namespace ml;

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

  void bandsDoNotDependOnThreads() {
    const auto collect = [](int threads) {
      setThreadCount(threads);
      std::vector<std::pair<int, int>> bands(bandCount(777));
      forEachBand(777, [&](const Band& band) { bands[band.index] = {band.begin, band.end}; });
      setThreadCount(0);
      return bands;
    };
    QVERIFY(collect(1) == collect(3));
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
      {
        const MemoryReuse another;
      }
      QVERIFY(MemoryReuse::keptBytes() > 0); // the first still asks
    }
    QCOMPARE(MemoryReuse::keptBytes(), std::size_t{0});
    FreeLarge{size}(allocateLarge(size));
    QCOMPARE(MemoryReuse::keptBytes(), std::size_t{0});
  }

  // What is in use and kept is never more than was once in use, but as much as that: small pictures in between do not drive out large ones.
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
