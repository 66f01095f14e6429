// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/profiles_dialog.h"

#include "app/theme.h"

#include "base/phrase.h"
#include "exposure/marks.h"

#include <QDialog>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QLocale>
#include <QPushButton>
#include <QVBoxLayout>
#include <functional>

namespace ml {
namespace {

/// A field of a profile as text: how to show it and how to take it back. False when the text is not understood.
struct Field {
  const char* name;
  QString label;
  std::function<QString(const CameraProfile&)> show;
  std::function<bool(CameraProfile&, const QString&)> take;
};

QString listed(const std::vector<int>& numbers) {
  QStringList out;
  for (const int n : numbers) out << QString::number(n);
  return out.join(", ");
}

QString listed(const std::vector<Stops>& steps) {
  QStringList out;
  for (const Stops s : steps) out << QString::fromStdString(print(s)).remove('+');
  return out.join(", ");
}

bool takeCounts(CameraProfile& p, const QString& text) {
  std::vector<int> counts;
  for (const QString& part : text.split(',', Qt::SkipEmptyParts)) {
    bool good = false;
    counts.push_back(part.trimmed().toInt(&good));
    if (!good) return false;
  }
  p.counts = counts;
  return true;
}

bool takeSteps(CameraProfile& p, const QString& text) {
  std::vector<Stops> steps;
  for (const QString& part : text.split(',', Qt::SkipEmptyParts)) {
    const auto step = parseStops(part.trimmed().toStdString());
    if (!step) return false;
    steps.push_back(*step);
  }
  p.steps = steps;
  return true;
}

Field figure(const char* name, const QString& label, double CameraProfile::*member) {
  return {name, label, [member](const CameraProfile& p) { return QLocale().toString(p.*member, 'g', 6); },
          [member](CameraProfile& p, const QString& t) {
            bool good = false;
            p.*member = text(pointed(t.toStdString())).toDouble(&good);
            return good;
          }};
}

Field time(const char* name, const QString& label, Seconds CameraProfile::*member) {
  return {name, label, [member](const CameraProfile& p) { return QString::fromStdString(print(p.*member)); },
          [member](CameraProfile& p, const QString& t) {
            const auto parsed = parseTime(t.toStdString());
            if (parsed) p.*member = *parsed;
            return parsed.has_value();
          }};
}

Field iso(const char* name, const QString& label, Iso CameraProfile::*member) {
  return {name, label, [member](const CameraProfile& p) { return QString::fromStdString(print(p.*member)); },
          [member](CameraProfile& p, const QString& t) {
            const auto parsed = parseIso(t.toStdString());
            if (parsed) p.*member = *parsed;
            return parsed.has_value();
          }};
}

std::vector<Field> fields() {
  const auto tr = [](const char* s) { return QDialog::tr(s); };
  return {
      {"profileName", tr("Name"), [](const CameraProfile& p) { return QString::fromStdString(p.name); },
       [](CameraProfile& p, const QString& t) {
         p.name = t.trimmed().toStdString();
         return !p.name.empty();
       }},
      {"profileCounts", tr("Bracket counts"), [](const CameraProfile& p) { return listed(p.counts); }, takeCounts},
      {"profileSteps", tr("Bracket steps, stops"), [](const CameraProfile& p) { return listed(p.steps); }, takeSteps},
      time("profileShortest", tr("Shortest time"), &CameraProfile::shortest),
      time("profileLongest", tr("Longest time"), &CameraProfile::longest),
      iso("profileBase", tr("Base ISO"), &CameraProfile::baseIso),
      iso("profileHighest", tr("Highest ISO"), &CameraProfile::highestIso),
      figure("profileWell", tr("Full well, electrons"), &CameraProfile::fullWell),
      figure("profileRead", tr("Read noise, electrons"), &CameraProfile::readNoise),
      figure("profileReadHigh", tr("the same at high ISO"), &CameraProfile::readNoiseHigh),
      figure("profilePitch", tr("Pixel pitch, um"), &CameraProfile::pixelPitchUm),
      figure("profileWidth", tr("Sensor width, mm"), &CameraProfile::sensorWidthMm),
      figure("profileStabiliser", tr("Stabiliser, stops"), &CameraProfile::stabiliserStops),
      figure("profileSize", tr("File size, MB"), &CameraProfile::fileMegabytes),
  };
}

class ProfilesDialog final : public QDialog {
public:
  ProfilesDialog(QWidget* parent, FramesModel& frames) : QDialog(parent), frames_(frames), fields_(fields()) {
    setObjectName("profilesDialog");
    setWindowTitle(tr("Cameras"));
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(20, 18, 20, 16);
    whole->setSpacing(12);
    auto* body = new QHBoxLayout;
    body->setSpacing(22);
    list_ = new QListWidget;
    list_->setObjectName("profileList");
    list_->setMinimumWidth(grown(270));
    list_->setTextElideMode(Qt::ElideRight);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    body->addWidget(list_);
    auto* form = new QFormLayout;
    form->setVerticalSpacing(5);
    form->setLabelAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    for (const auto& field : fields_) {
      auto* edit = new QLineEdit;
      edit->setObjectName(field.name);
      edit->setMinimumWidth(grown(250));
      form->addRow(field.label, edit);
      edits_.push_back(edit);
    }
    body->addLayout(form);
    whole->addLayout(body);
    note_ = new QLabel;
    note_->setObjectName("profileNote");
    note_->setWordWrap(true);
    note_->setProperty("role", "quiet");
    whole->addWidget(note_);
    auto* row = new QHBoxLayout;
    keep_ = button(row, "keepProfile", tr("Keep as my own"));
    remove_ = button(row, "removeProfile", tr("Remove"));
    auto* import = button(row, "importProfile", tr("Import..."));
    auto* save = button(row, "exportProfile", tr("Export..."));
    auto* measure = button(row, "measureProfile", tr("Measure..."));
    row->addStretch();
    auto* use = button(row, "useProfile", tr("Use this camera"));
    use->setProperty("role", "next");
    whole->addLayout(row);
    fill();
    connect(list_, &QListWidget::currentRowChanged, this, [this] { show(current()); });
    connect(keep_, &QPushButton::clicked, this, &ProfilesDialog::keep);
    connect(remove_, &QPushButton::clicked, this,
            [this] { report(frames_.desk().profiles.remove(current().id), tr("Removed.")); });
    connect(import, &QPushButton::clicked, this, [this] {
      const QString file = QFileDialog::getOpenFileName(this, tr("Camera profile"), {}, tr("Profiles (*.json)"));
      if (file.isEmpty()) return;
      const auto taken = frames_.desk().profiles.import(file.toStdString());
      report(taken ? Result<void>{} : Result<void>(passOn(taken.error())), tr("Imported."));
    });
    connect(save, &QPushButton::clicked, this, [this] {
      const QString file = QFileDialog::getSaveFileName(
          this, tr("Export the profile"), QString::fromStdString(current().id + ".json"), tr("Profiles (*.json)"));
      if (!file.isEmpty()) report(frames_.desk().profiles.exportTo(current().id, file.toStdString()), tr("Exported."));
    });
    connect(measure, &QPushButton::clicked, this, [this] {
      const QStringList files = QFileDialog::getOpenFileNames(
          this, tr("Raw files: pairs of an even wall at several times, and a pair with the cap on"));
      if (files.isEmpty()) return;
      accept();
      frames_.measureSensor(files);
    });
    connect(use, &QPushButton::clicked, this, [this] {
      PlanChoices c = frames_.choices();
      c.camera = current().id;
      accept();
      frames_.choose(c);
    });
  }

private:
  static QPushButton* button(QHBoxLayout* row, const char* name, const QString& text) {
    auto* made = new QPushButton(text);
    made->setObjectName(name);
    row->addWidget(made);
    return made;
  }
  void fill() {
    const std::string id = frames_.choices().camera;
    profiles_ = frames_.desk().profiles.all();
    const QSignalBlocker quiet(list_);
    list_->clear();
    for (const auto& p : profiles_) list_->addItem(QString::fromStdString(p.name));
    int row = 0;
    for (int i = 0; i < int(profiles_.size()); ++i)
      if (profiles_[std::size_t(i)].id == id) row = i;
    list_->setCurrentRow(row);
    show(current());
  }
  [[nodiscard]] const CameraProfile& current() const {
    return profiles_[std::size_t(std::max(0, list_->currentRow()))];
  }
  void show(const CameraProfile& p) {
    for (std::size_t i = 0; i < fields_.size(); ++i) {
      edits_[i]->setText(fields_[i].show(p));
      edits_[i]->setCursorPosition(0);
    }
    const bool own = frames_.desk().profiles.isOwn(p.id);
    keep_->setText(own ? tr("Save") : tr("Keep as my own"));
    remove_->setEnabled(own);
    const auto problems = frames_.desk().profiles.problems();
    note_->setText(!problems.empty() ? QString::fromStdString(problems.front())
                   : own             ? tr("One of your own.")
                         : tr("Ships with the program: plausible figures, not measured. \"Measure\" derives full well "
                              "and read noise from your own raw files: "
                              "shoot an evenly lit wall twice at each of four or more times, and twice with the cap "
                              "on, all at base ISO."));
  }
  void keep() {
    CameraProfile p = current();
    for (std::size_t i = 0; i < fields_.size(); ++i)
      if (!fields_[i].take(p, edits_[i]->text())) {
        edits_[i]->setFocus();
        return note_->setText(tr("\"%1\" is not understood.").arg(edits_[i]->text()));
      }
    if (!frames_.desk().profiles.isOwn(p.id) && p.name == current().name) p.name = phrase("{} (own)", p.name);
    const auto kept = frames_.desk().profiles.keep(p);
    report(kept ? Result<void>{} : Result<void>(passOn(kept.error())), tr("Kept."));
  }
  void report(const Result<void>& done, const QString& good) {
    if (done) {
      frames_.profilesChanged();
      fill();
    }
    note_->setText(done ? good : QString::fromStdString(done.error().message));
  }

  FramesModel& frames_;
  std::vector<Field> fields_;
  std::vector<CameraProfile> profiles_;
  QListWidget* list_;
  std::vector<QLineEdit*> edits_;
  QLabel* note_;
  QPushButton *keep_, *remove_;
};

} // namespace

void editProfiles(QWidget* parent, FramesModel& frames) {
  ProfilesDialog(parent, frames).exec();
}

} // namespace ml
