// The arrows of docs/architecture.md: a room includes only the rooms it may use, Qt stays above session, and each
// file-format library stays in codec.
#include <QTest>
#include <filesystem>
#include <fstream>
#include <map>
#include <regex>
#include <set>

namespace fs = std::filesystem;

namespace {

using Rooms = std::map<std::string, std::set<std::string>>;

const Rooms& mayUse() {
  static const Rooms rooms{
      {"base", {}},
      {"image", {"base"}},
      {"exposure", {"base"}},
      {"capture", {"base", "image", "exposure"}},
      {"mosaic", {"base", "image"}},
      {"codec", {"base", "image", "exposure", "mosaic"}},
      {"plan", {"base", "exposure"}},
      {"camera", {"base", "image", "exposure", "capture", "codec", "plan"}},
      {"ingest", {"base", "image", "exposure", "capture", "codec"}},
      {"align", {"base", "image", "exposure", "capture"}},
      {"response", {"base", "image", "exposure", "capture", "align"}},
      {"judge", {"base", "image", "exposure", "capture", "align", "response", "plan"}},
      {"merge", {"base", "image", "exposure", "capture", "align"}},
      {"tone", {"base", "image", "exposure"}},
      {"finish", {"base", "image", "exposure", "tone"}},
      {"deliver", {"base", "image", "exposure", "codec"}},
      {"pipeline",
       {"base", "image", "exposure", "capture", "plan", "ingest", "align", "response", "judge", "merge", "tone",
        "finish", "deliver"}},
      {"session", {"base", "image", "exposure", "capture", "plan", "camera", "judge", "tone", "finish", "pipeline"}},
      {"model",
       {"base", "image", "exposure", "capture", "plan", "camera", "ingest", "judge", "merge", "tone", "finish",
        "deliver", "pipeline", "session"}},
      {"app", {"base", "exposure", "plan", "camera", "judge", "pipeline", "session", "model"}},
      {"cli", {"base", "exposure", "plan", "camera", "ingest", "judge", "deliver", "finish", "pipeline", "session"}},
  };
  return rooms;
}

std::vector<std::string> breaches(const std::string& room, const std::string& line) {
  static const std::regex own("#include \"([a-z_]+)/"), system("#include <([A-Za-z0-9_./]+)>");
  static const std::regex formats("^(Imf|Iex|half|jpeglib|png|tiff|libraw|exiv2|lcms2).*"), qt("^Q[A-Z].*");
  std::vector<std::string> out;
  std::smatch match;
  if (std::regex_search(line, match, own)) {
    const std::string used = match[1];
    if (used != room && mayUse().count(used) && !mayUse().at(room).count(used)) out.push_back(room + " uses " + used);
    if (!mayUse().count(used)) out.push_back(room + " uses unknown " + used);
  } else if (line.starts_with("#include \"")) {
    out.push_back(room + " uses a file of no room: " + line);
  } else if (std::regex_search(line, match, system)) {
    const std::string header = match[1];
    if (room != "codec" && std::regex_match(header, formats)) out.push_back(room + " uses " + header);
    if (room != "model" && room != "app" && std::regex_match(header, qt)) out.push_back(room + " uses " + header);
    if (room == "model" && (header == "QWidget" || header == "QApplication" || header == "QPainter"))
      out.push_back(room + " uses " + header);
  }
  return out;
}

} // namespace

class TestArchitecture : public QObject {
  Q_OBJECT

private slots:
  void includesFollowTheArrows() {
    int files = 0;
    for (const auto& entry : fs::recursive_directory_iterator(fs::path(ML_SOURCE_DIR) / "src")) {
      const std::string ending = entry.path().extension().string();
      if (ending != ".h" && ending != ".cpp") continue;
      const std::string room = entry.path().lexically_relative(fs::path(ML_SOURCE_DIR) / "src").begin()->string();
      QVERIFY2(mayUse().count(room), room.c_str());
      std::ifstream in(entry.path());
      for (std::string line; std::getline(in, line);)
        for (const auto& breach : breaches(room, line)) QFAIL((entry.path().string() + ": " + breach).c_str());
      ++files;
    }
    QVERIFY(files > 60);
  }

  void breachesAreSeen() {
    QVERIFY(!breaches("align", "#include \"merge/merge.h\"").empty());
    QVERIFY(!breaches("tone", "#include <QImage>").empty());
    QVERIFY(!breaches("deliver", "#include <tiffio.h>").empty());
    QVERIFY(!breaches("base", "#include \"image/image.h\"").empty());
    QVERIFY(!breaches("merge", "#include \"/elsewhere/mine.h\"").empty()); // a fresh machine has only the repository
    QVERIFY(breaches("merge", "#include \"capture/frame.h\"").empty());
  }

  void noRoomUsesItselfThroughAnother() { // the arrows have no circle
    for (const auto& [room, used] : mayUse())
      for (const auto& other : used) QVERIFY2(!mayUse().at(other).count(room), (room + " and " + other).c_str());
  }
};

QTEST_GUILESS_MAIN(TestArchitecture)
#include "test_architecture.moc"
