// SPDX-License-Identifier: GPL-3.0-or-later
// The arrows of src/rooms.txt: a room includes only the rooms it may use, Qt stays above session, SQL in logbook, each
// file-format library stays in codec, and the picture of the house is drawn from the same file.
#include <QLibraryInfo>
#include <QTest>
#include <filesystem>
#include <fstream>
#include <map>
#include <regex>
#include <set>
#include <sstream>

namespace fs = std::filesystem;

namespace {

using Rooms = std::map<std::string, std::set<std::string>>;

std::string contentsOf(const fs::path& file) {
  std::ifstream in(file);
  return {std::istreambuf_iterator<char>(in), {}};
}

const Rooms& mayUse() {
  static const Rooms rooms = [] {
    Rooms out;
    std::istringstream in(contentsOf(fs::path(ML_SOURCE_DIR) / "src/rooms.txt"));
    for (std::string line; std::getline(in, line);) {
      if (line.empty() || line.front() == '#') continue;
      const auto colon = line.find(':');
      std::istringstream used(line.substr(colon + 1));
      out[line.substr(0, colon)] = {std::istream_iterator<std::string>(used), {}};
    }
    return out;
  }();
  return rooms;
}

/// Headers of libraries that only codec knows.
const std::regex kFormats("^(Imf|Iex|Imath|half\\.h|openexr|jpeglib|turbojpeg|png|tiff|libraw|exiv2|lcms2|avif|jxl|"
                          "libheif|lensfun|webp).*",
                          std::regex::icase);

/// The Qt modules whose headers a room may name.
std::vector<std::string> qtOf(const std::string& room) {
  if (room == "logbook") return {"QtCore", "QtSql"};
  if (room == "cli") return {"QtCore"}; // the logbook's driver is a plugin
  if (room == "model") return {"QtCore", "QtGui"};
  if (room == "app") return {"QtCore", "QtGui", "QtWidgets", "QtPrintSupport", "QtSvg"};
  return {};
}

bool isQt(const std::string& header) {
  return std::regex_match(header, std::regex("^(Qt[A-Z][A-Za-z]*/)?(Q[A-Z][A-Za-z]*|q[a-z]+\\.h)$"));
}

bool mayUseQt(const std::string& room, const std::string& header) {
  const fs::path headers = QLibraryInfo::path(QLibraryInfo::HeadersPath).toStdString();
  for (const auto& module : qtOf(room))
    if (fs::exists(headers / module / fs::path(header).filename())) return true;
  return false;
}

std::vector<std::string> breaches(const std::string& room, const std::string& line) {
  static const std::regex own("^\\s*#include \"([a-z_]+)/"), system("^\\s*#include <([A-Za-z0-9_./]+)>");
  std::vector<std::string> out;
  std::smatch match;
  if (std::regex_search(line, match, own)) {
    const std::string used = match[1];
    if (!mayUse().count(used))
      out.push_back(room + " uses unknown " + used);
    else if (used != room && !mayUse().at(room).count(used))
      out.push_back(room + " uses " + used);
  } else if (line.starts_with("#include \"")) {
    out.push_back(room + " uses a file of no room: " + line);
  } else if (std::regex_search(line, match, system)) {
    const std::string header = match[1];
    if (room != "codec" && std::regex_match(header, kFormats)) out.push_back(room + " uses " + header);
    if (isQt(header) && !mayUseQt(room, header)) out.push_back(room + " uses " + header);
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
    for (const auto& [room, line] :
         {std::pair{"align", "#include \"merge/merge.h\""},
          {"tone", "#include <QImage>"},
          {"deliver", "#include <tiffio.h>"},
          {"base", "#include \"image/image.h\""},
          {"model", "#include <QLabel>"},
          {"model", "#include <QtWidgets/QWidget>"},
          {"model", "#include <QSqlDatabase>"},
          {"app", "#include <QTcpSocket>"},
          {"pipeline", "#include <avif/avif.h>"},
          {"deliver", "#include <jxl/encode.h>"},
          {"ingest", "#include <libheif/heif.h>"},
          {"finish", "#include <lensfun/lensfun.h>"},
          {"camera", "#include <OpenEXR/ImfHeader.h>"},
          {"session", "#include <qobject.h>"},
          {"merge", "#include \"/elsewhere/mine.h\""}}) // a fresh machine has only the repository
      QVERIFY2(!breaches(room, line).empty(), line);
    for (const auto& [room, line] : {std::pair{"merge", "#include \"capture/frame.h\""},
                                     {"model", "#include <QImage>"},
                                     {"app", "#include <QPushButton>"},
                                     {"codec", "#include <avif/avif.h>"},
                                     {"base", "#include <queue>"},
                                     {"base", "#include <numeric>"}})
      QVERIFY2(breaches(room, line).empty(), line);
  }

  void theArrowsHaveNoCircle() {
    for (const auto& [room, used] : mayUse())
      for (const auto& other : used) {
        QVERIFY2(mayUse().count(other), (room + " and " + other).c_str());
        QVERIFY2(!mayUse().at(other).count(room), (room + " and " + other).c_str());
        // What a room uses, it may also name: nothing comes in by the back door.
        for (const auto& further : mayUse().at(other))
          QVERIFY2(further != room, (room + " uses itself through " + other).c_str());
      }
  }

  void whatIsBuiltFollowsThem() {
    const std::string cmake = contentsOf(fs::path(ML_SOURCE_DIR) / "src/CMakeLists.txt");
    const std::regex room("ml_room\\(([a-z]+)[^)]*?USES ([a-z ]+?)\\s*(?:LIBRARIES|\\))");
    int rooms = 0;
    for (auto it = std::sregex_iterator(cmake.begin(), cmake.end(), room); it != std::sregex_iterator();
         ++it, ++rooms) {
      std::istringstream used((*it)[2]);
      for (std::string other; used >> other;)
        QVERIFY2(mayUse().at((*it)[1]).count(other), ((*it)[1].str() + " is linked with " + other).c_str());
    }
    QVERIFY(rooms > 15);
  }

  void thePictureIsDrawnFromThem() {
    const std::string picture = contentsOf(fs::path(ML_SOURCE_DIR) / "docs/house.svg");
    QVERIFY2(picture.find(contentsOf(fs::path(ML_SOURCE_DIR) / "src/rooms.txt")) != std::string::npos,
             "run scripts/house");
  }
};

QTEST_GUILESS_MAIN(TestArchitecture)
#include "test_architecture.moc"
