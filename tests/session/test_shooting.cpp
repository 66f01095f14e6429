// SPDX-License-Identifier: GPL-3.0-or-later
// Sets on disk: what is listed, what is found again, and that nothing is lost when the program dies at any moment. Run
// with
// --shoot JOB this program is its own victim: it shoots sets into a job until it is killed.
#include "camera/simulated_camera.h"
#include "ingest/load_frame.h"
#include "ingest/watched_folder.h"
#include "session/profiles.h"
#include "session/shooting.h"
#include "support/scenes.h"

#include <QProcess>
#include <QTest>
#include <csignal>
#include <fstream>
#include <random>
#include <sys/resource.h>
#include <thread>

using namespace ml;
namespace fs = std::filesystem;

namespace {

std::vector<ExposureSettings> bracket() {
  return test::exposedAt({11, 8, 5});
}

std::shared_ptr<const World> smallWorld() {
  return std::make_shared<World>(World::still(test::texturedScene(120, 90, 8, 2), 1));
}

/// Shoots set after set, noting each frame as the window does.
int shootForever(const fs::path& folder) {
  auto job = Job::open(folder);
  if (!job) return 3;
  View& view = job->views()[0];
  SimulationOptions options;
  options.seed = std::uint64_t(view.sets.size()) + 1;
  SimulatedCamera camera(smallWorld(), shippedProfiles().front(), options);
  std::printf("ready\n");
  std::fflush(stdout);
  for (int round = 0; round < 10000; ++round) {
    view.startSet("Bracket", bracket());
    if (!view.saveFrames()) return 4;
    const auto shot =
        shootBracket(camera, {bracket(), FrameFormat::Jpeg, view.setFolder(view.sets.back()), "frame-", 1, {0}}, {},
                     [&](const ShotFrame& f) {
                       if (!recordFrame(view, f.file)) std::exit(5);
                       std::printf("frame\n");
                       std::fflush(stdout);
                     });
    if (!shot) return 6;
  }
  return 0;
}

std::vector<fs::path> framesOnDisk(const fs::path& folder) {
  std::vector<fs::path> files;
  for (const auto& entry : fs::recursive_directory_iterator(folder))
    if (entry.path().extension() == ".jpg" && entry.path().filename().string().front() != '.')
      files.push_back(entry.path());
  std::sort(files.begin(), files.end());
  return files;
}

} // namespace

class TestShooting : public QObject {
  Q_OBJECT

private slots:
  void setsSurviveReopening() {
    QTemporaryDir dir;
    auto job = Job::create(test::pathOf(dir) / "job", "Visit");
    QVERIFY(job->addView("Hall", "boat_hall", "full-frame-24"));
    View& view = job->views()[0];
    view.startSet("Bracket", bracket());
    QVERIFY(recordFrame(view, view.setFolder(view.sets[0]) / "frame-1.jpg"));
    QVERIFY(recordFrame(view, view.setFolder(view.sets[0]) / "frame-2.jpg"));
    view.sets[0].frames[0].used = false;
    view.refreshFrames();
    QVERIFY(view.saveFrames());
    view.startSet("Upper row", bracket());
    view.sets[1].row = 2;
    view.sets[1].plane = 3;
    QVERIFY(recordFrame(view, "/elsewhere/x.jpg"));
    view.situation.handHeld = true;
    view.situation.movers = {typicalMovers()[2]};
    view.situation.positions = {180, 0, 0.4, 3, 2, true};
    view.isoCap = Iso{800};
    view.ownCamera = shippedProfiles()[1];
    view.readings = {{"Sky", {14.5}, true, 0.4, 0.2, 0.3, true}};
    QVERIFY(view.savePlan());
    const auto again = Job::open(test::pathOf(dir) / "job");
    QVERIFY(again);
    const View& back = again->views()[0];
    QVERIFY(back.sets == view.sets);
    QCOMPARE(back.activeSet, 1);
    QVERIFY(back.frames == view.frames);
    QVERIFY(back.situation == view.situation);
    QVERIFY(back.isoCap == view.isoCap);
    QVERIFY(back.ownCamera == view.ownCamera);
    QVERIFY(back.readings == view.readings);
  }

  // Killed at a random moment, a hundred and twenty times: every frame with a name on disk is listed when the job
  // opens, every one listed can be read, and the lists themselves are whole.
  void nothingIsLostWhenKilled() {
    QTemporaryDir dir;
    const fs::path folder = test::pathOf(dir) / "job";
    {
      auto job = Job::create(folder, "Visit");
      QVERIFY(job->addView("Hall", "", "full-frame-24"));
    }
    std::mt19937 random(20261124);
    std::size_t before = 0;
    int grew = 0, toGrow = 0;
    for (int round = 0; round < 120; ++round) {
      QProcess victim;
      victim.start(QCoreApplication::applicationFilePath(), {"--shoot", QString::fromStdString(folder.string())});
      const int frames = int(random() % 4); // of which it told before the moment comes, however slow the machine
      QByteArray told;
      while (told.count('\n') <= frames) {
        QVERIFY(victim.waitForReadyRead(20000));
        told += victim.readAllStandardOutput();
      }
      toGrow += frames > 0;
      std::this_thread::sleep_for(
          std::chrono::microseconds(random() % 60000)); // the moment of death is the point of this test
      ::kill(pid_t(victim.processId()), SIGKILL);
      QVERIFY(victim.waitForFinished(20000));
      auto job = Job::open(folder);
      QVERIFY2(job.has_value(), job ? "" : job.error().message.c_str());
      std::vector<fs::path> listed;
      for (const auto& set : job->views()[0].sets)
        for (const auto& m : set.frames) listed.push_back(m.file);
      std::sort(listed.begin(), listed.end());
      QCOMPARE(listed, framesOnDisk(folder));
      QVERIFY(listed.size() >= before);
      for (std::size_t i = before; i < listed.size(); i += 3) QVERIFY(loadFrame(listed[i]).has_value());
      QVERIFY(job->views()[0].saveFrames());
      grew += listed.size() > before;
      before = listed.size();
    }
    QVERIFY(toGrow > 60);
    QVERIFY2(grew >= toGrow, qPrintable(QString("%1 of %2 rounds kept what they told of").arg(grew).arg(toGrow)));
    for (const auto& entry : fs::recursive_directory_iterator(folder))
      QVERIFY2(entry.path().filename().string().find(".part-") == std::string::npos,
               entry.path().c_str()); // rubbish is cleared
  }

  void vanishedFolderIsSaidAndMended() {
    QTemporaryDir dir;
    auto job = Job::create(test::pathOf(dir) / "job", "Visit");
    QVERIFY(job->addView("Hall", "", "full-frame-24"));
    View& view = job->views()[0];
    view.startSet("Bracket", bracket());
    QVERIFY(checkFolder(view));
    fs::rename(test::pathOf(dir) / "job", test::pathOf(dir) / "away");
    const auto lost = recordFrame(view, view.setFolder(view.sets[0]) / "frame-1.jpg");
    QVERIFY(!lost);
    QCOMPARE(int(lost.error().code), int(ErrorCode::CannotWrite));
    QVERIFY(lost.error().message.find("vanished") != std::string::npos);
    QVERIFY(!checkFolder(view));
    fs::remove_all(test::pathOf(dir) / "job");
    fs::rename(test::pathOf(dir) / "away", test::pathOf(dir) / "job");
    QVERIFY(recordFrame(view, view.setFolder(view.sets[0]) / "frame-2.jpg"));
    QCOMPARE(Job::open(test::pathOf(dir) / "job")->views()[0].frames.size(), std::size_t(2));
  }

  // A full disk, made by a limit on the size of files: a sentence, nothing half written, and it goes on when there is
  // room again.
  void fullDiskIsSaidAndMended() {
    QTemporaryDir dir;
    SimulatedCamera camera(std::make_shared<World>(World::still(test::texturedScene(300, 200, 8, 2), 1)),
                           shippedProfiles().front());
    const fs::path file = test::pathOf(dir) / "frame-1.tif";
    std::signal(SIGXFSZ, SIG_IGN);
    rlimit full{4096, RLIM_INFINITY}, room{};
    ::getrlimit(RLIMIT_FSIZE, &room);
    full.rlim_max = room.rlim_max;
    ::setrlimit(RLIMIT_FSIZE, &full);
    const auto refused = camera.expose(bracket()[0], FrameFormat::Tiff, file);
    ::setrlimit(RLIMIT_FSIZE, &room);
    QVERIFY(!refused);
    QCOMPARE(int(refused.error().code), int(ErrorCode::CannotWrite));
    QVERIFY(fs::is_empty(test::pathOf(dir)));
    QVERIFY(camera.expose(bracket()[0], FrameFormat::Tiff, file));
    QVERIFY(loadFrame(file).has_value());
  }

  void watchedFolderTakesWhatIsComplete() {
    QTemporaryDir dir, card;
    const auto shot =
        test::shootScene(test::texturedScene(160, 120, 8, 2), bracket(), FrameFormat::Jpeg, test::pathOf(card));
    std::ofstream(test::pathOf(dir) / "old.jpg") << "was here before";
    WatchedFolder watched(test::pathOf(dir));
    QVERIFY(watched.look()->empty());
    const auto size = fs::file_size(shot.files[0]);
    std::string bytes(size, '\0');
    std::ifstream(shot.files[0], std::ios::binary).read(bytes.data(), std::streamsize(size));
    const fs::path target = test::pathOf(dir) / "IMG_1.jpg";
    std::ofstream(target, std::ios::binary).write(bytes.data(), std::streamsize(size / 2)); // still being copied
    QVERIFY(watched.look()->empty());
    QVERIFY(watched.look()->empty()); // its size stands still, but its end is not there
    std::ofstream(target, std::ios::binary | std::ios::app)
        .write(bytes.data() + size / 2, std::streamsize(size - size / 2));
    QVERIFY(watched.look()->empty()); // it has just grown
    QCOMPARE(*watched.look(), std::vector<fs::path>{target});
    QVERIFY(watched.look()->empty()); // once
    fs::rename(test::pathOf(dir), test::pathOf(dir).string() + "-away");
    QVERIFY(!watched.look());
    fs::rename(test::pathOf(dir).string() + "-away", test::pathOf(dir));
    fs::copy_file(shot.files[1], test::pathOf(dir) / "IMG_2.jpg");
    QVERIFY(watched.look()->empty());
    QCOMPARE(watched.look()->size(), std::size_t(1));
  }

  void profilesOfOnesOwn() {
    QTemporaryDir dir;
    ProfileShelf shelf(test::pathOf(dir) / "cameras");
    QCOMPARE(shelf.all().size(), shippedProfiles().size());
    CameraProfile mine = shippedProfiles().front();
    mine.name = "My camera";
    mine.fullWell = 48000;
    const auto kept = shelf.keep(mine);
    QVERIFY(kept);
    QVERIFY(kept->id != mine.id); // shipped ones are not overwritten
    QVERIFY(shelf.isOwn(kept->id));
    QVERIFY(shelf.exportTo(kept->id, test::pathOf(dir) / "mine.json"));
    QVERIFY(shelf.remove(kept->id));
    QVERIFY(!shelf.find(kept->id));
    const auto imported = shelf.import(test::pathOf(dir) / "mine.json");
    QVERIFY(imported);
    QVERIFY(*imported == *kept);
    ProfileShelf again(test::pathOf(dir) / "cameras");
    QCOMPARE(again.find(imported->id)->fullWell, 48000.0);
    std::ofstream(test::pathOf(dir) / "cameras" / "broken.json") << "{";
    QCOMPARE(ProfileShelf(test::pathOf(dir) / "cameras").problems().size(), std::size_t(1));
    mine.fullWell = -1;
    QVERIFY(!shelf.keep(mine));
    QVERIFY(!shelf.remove("full-frame-24"));
  }
};

int main(int count, char** arguments) {
  QCoreApplication application(count, arguments);
  if (count == 3 && std::string(arguments[1]) == "--shoot") return shootForever(arguments[2]);
  TestShooting test;
  return QTest::qExec(&test, count, arguments);
}
#include "test_shooting.moc"
