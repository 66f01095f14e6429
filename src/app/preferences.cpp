// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/preferences.h"

#include "app/commands.h"
#include "app/language.h"
#include "app/monitor_colour.h"
#include "app/theme.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFormLayout>
#include <QHeaderView>
#include <QKeySequenceEdit>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSettings>
#include <QSpinBox>
#include <QTabWidget>
#include <QTableWidget>
#include <QVBoxLayout>

namespace ml {
namespace {

constexpr int kUsualWebEdge = 2048;

QWidget* keysPage(Commands& commands) {
  auto* page = new QWidget;
  auto* column = new QVBoxLayout(page);
  auto* said = new QLabel;
  said->setObjectName("keySaid");
  said->setProperty("role", "quiet");
  said->setText(QDialog::tr("Click a key and press another; Backspace takes it away."));
  auto* table = new QTableWidget(int(commands.all().size()), 2);
  table->setObjectName("keys");
  table->horizontalHeader()->hide();
  table->verticalHeader()->hide();
  table->setShowGrid(false);
  table->setTabKeyNavigation(false);
  table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
  table->setColumnWidth(1, grown(170));
  table->verticalHeader()->setDefaultSectionSize(grown(36));
  int row = 0;
  for (QAction* action : commands.all()) {
    auto* name = new QTableWidgetItem(action->text());
    name->setFlags(Qt::ItemIsEnabled);
    table->setItem(row, 0, name);
    auto* edit = new QKeySequenceEdit(action->shortcut());
    edit->setObjectName("key-" + action->objectName());
    edit->setAccessibleName(action->text());
    table->setCellWidget(row++, 1, edit);
    QObject::connect(edit, &QKeySequenceEdit::editingFinished, page, [edit, action, said, &commands] {
      const QKeySequence key = edit->keySequence();
      if (key == action->shortcut()) return;
      if (const QAction* other = commands.withKey(key, action)) {
        said->setText(QDialog::tr("%1 is the key for: %2. Take it away there first.")
                          .arg(key.toString(QKeySequence::NativeText), other->text()));
        return edit->setKeySequence(action->shortcut());
      }
      commands.setKey(action, key);
    });
  }
  auto* usual = new QPushButton(QDialog::tr("All keys as they were"));
  QObject::connect(usual, &QPushButton::clicked, page, [table, &commands] {
    int line = 0;
    for (QAction* action : commands.all()) {
      commands.setKey(action, commands.usualKey(action));
      static_cast<QKeySequenceEdit*>(table->cellWidget(line++, 1))->setKeySequence(action->shortcut());
    }
  });
  column->addWidget(said);
  column->addWidget(table, 1);
  column->addWidget(usual, 0, Qt::AlignLeft);
  return page;
}

/// A folder, typed or chosen.
QWidget* folderRow(QLineEdit* line) {
  auto* whole = new QWidget;
  auto* row = new QHBoxLayout(whole);
  row->setContentsMargins(0, 0, 0, 0);
  auto* choose = new QPushButton(QDialog::tr("Choose..."));
  row->addWidget(line, 1);
  row->addWidget(choose);
  QObject::connect(choose, &QPushButton::clicked, line, [line] {
    const QString folder = QFileDialog::getExistingDirectory(line, QDialog::tr("Where jobs are kept"), line->text());
    if (!folder.isEmpty()) line->setText(folder);
  });
  return whole;
}

QLabel* monitorLine() {
  auto* line = new QLabel(monitorColour().words());
  line->setObjectName("prefMonitor");
  line->setWordWrap(true);
  return line;
}

} // namespace

QString Preferences::theme() {
  return QSettings().value("theme", "dusk").toString();
}
QString Preferences::jobsFolder() {
  return QSettings().value("jobsFolder").toString();
}
QString Preferences::language() {
  return QSettings().value("language").toString();
}
bool Preferences::feet() {
  return QSettings().value("feet", false).toBool();
}
double Preferences::shadows() {
  return std::clamp(QSettings().value("shadows", 10).toDouble(), 1.0, 1000.0);
}
double Preferences::textSize() {
  return std::clamp(QSettings().value("textSize", 1).toDouble(), 1.0, 1.5);
}
int Preferences::webEdge() {
  return std::clamp(QSettings().value("webEdge", kUsualWebEdge).toInt(), 256, 16384);
}

bool editPreferences(QWidget* parent, Commands& commands) {
  QDialog dialog(parent);
  dialog.setObjectName("preferences");
  dialog.setWindowTitle(QDialog::tr("Preferences"));
  dialog.resize(620, 560);
  auto* column = new QVBoxLayout(&dialog);
  column->setContentsMargins(18, 16, 18, 16);
  auto* tabs = new QTabWidget;
  auto* page = new QWidget;
  auto* form = new QFormLayout(page);
  form->setContentsMargins(14, 16, 14, 12);
  form->setVerticalSpacing(10);
  form->setLabelAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  auto* theme = new QComboBox;
  theme->setObjectName("prefTheme");
  theme->addItem(QDialog::tr("Dusk: dark grey"), "dusk");
  theme->addItem(QDialog::tr("Paper: light grey"), "paper");
  theme->setCurrentIndex(theme->findData(Preferences::theme()));
  auto* size = new QComboBox;
  size->setObjectName("prefText");
  for (const int percent : {100, 115, 130, 150}) size->addItem(QDialog::tr("%1 %").arg(percent), percent / 100.0);
  size->setCurrentIndex(std::max(0, size->findData(Preferences::textSize())));
  auto* language = new QComboBox;
  language->setObjectName("prefLanguage");
  language->addItem(QDialog::tr("as the system"), QString());
  for (const auto& spoken : spokenLanguages()) language->addItem(spoken.name, spoken.id);
  language->setCurrentIndex(std::max(0, language->findData(Preferences::language())));
  auto* jobs = new QLineEdit(Preferences::jobsFolder());
  jobs->setObjectName("prefJobs");
  jobs->setPlaceholderText(QDialog::tr("the usual place"));
  auto* units = new QComboBox;
  units->setObjectName("prefUnits");
  units->addItems({QDialog::tr("metres"), QDialog::tr("feet")});
  units->setCurrentIndex(Preferences::feet() ? 1 : 0);
  auto* shadows = new QSpinBox;
  shadows->setObjectName("prefShadows");
  shadows->setRange(1, 200);
  shadows->setButtonSymbols(QAbstractSpinBox::NoButtons);
  shadows->setPrefix(QDialog::tr("SNR "));
  shadows->setValue(int(Preferences::shadows()));
  shadows->setToolTip(QDialog::tr("10 is acceptable, 40 excellent (ISO 12232); for new jobs"));
  auto* web = new QSpinBox;
  web->setObjectName("prefWeb");
  web->setRange(256, 16384);
  web->setButtonSymbols(QAbstractSpinBox::NoButtons);
  web->setSuffix(QDialog::tr(" pixels"));
  web->setValue(Preferences::webEdge());
  auto* creator = new QLineEdit(QSettings().value("creator").toString());
  creator->setObjectName("prefCreator");
  auto* rights = new QLineEdit(QSettings().value("rights").toString());
  rights->setObjectName("prefRights");
  form->addRow(QDialog::tr("Look"), theme);
  form->addRow(QDialog::tr("Text"), size);
  form->addRow(QDialog::tr("Language"), language);
  form->addRow(QDialog::tr("Jobs are kept in"), folderRow(jobs));
  auto* later = new QLabel(
      QDialog::tr("Another language, place or size of text counts from the next start on; jobs stay where they are."));
  later->setWordWrap(true);
  form->addRow(QString(), later);
  form->addRow(QDialog::tr("Colours on screen"), monitorLine());
  form->addRow(QDialog::tr("Distances in"), units);
  form->addRow(QDialog::tr("Shadows of new jobs"), shadows);
  form->addRow(QDialog::tr("Longest side for the web"), web);
  form->addRow(QDialog::tr("Creator"), creator);
  form->addRow(QDialog::tr("Rights"), rights);
  tabs->addTab(page, QDialog::tr("General"));
  tabs->addTab(keysPage(commands), QDialog::tr("Keys"));
  column->addWidget(tabs, 1);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
  column->addWidget(buttons);
  QObject::connect(buttons, &QDialogButtonBox::accepted, &dialog, &QDialog::accept);
  QObject::connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
  if (dialog.exec() != QDialog::Accepted) return false;
  QSettings kept;
  kept.setValue("theme", theme->currentData());
  kept.setValue("language", language->currentData());
  kept.setValue("textSize", size->currentData());
  kept.setValue("jobsFolder", jobs->text().trimmed());
  kept.setValue("feet", units->currentIndex() == 1);
  kept.setValue("shadows", shadows->value());
  kept.setValue("webEdge", web->value());
  kept.setValue("creator", creator->text().trimmed());
  kept.setValue("rights", rights->text().trimmed());
  return true;
}

} // namespace ml
