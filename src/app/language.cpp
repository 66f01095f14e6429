// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/language.h"

#include "base/phrase.h"

#include <QApplication>
#include <QDate>
#include <QDoubleSpinBox>
#include <QKeyEvent>
#include <QLibraryInfo>
#include <QLocale>
#include <QTranslator>
#include <algorithm>

static void makeWordsKnown() {
  Q_INIT_RESOURCE(words);
}

namespace ml {
namespace {

/// All words stand in one list, whoever says them (scripts/translate): the core has no classes that could tell them
/// apart, and what reads the same is said the same.
constexpr const char* kList = "words";

class Words : public QTranslator {
public:
  using QTranslator::QTranslator;
  QString translate(const char*, const char* source, const char* disambiguation, int n) const override {
    return QTranslator::translate(kList, source, disambiguation, n);
  }
};

/// Figures are typed with a point or a comma, whichever the language writes.
class EitherMark : public QObject {
public:
  using QObject::QObject;
  bool eventFilter(QObject* watched, QEvent* event) override {
    if (event->type() != QEvent::KeyPress || mending_) return false;
    auto* box = qobject_cast<QDoubleSpinBox*>(watched);
    const QString typed = static_cast<QKeyEvent*>(event)->text();
    if (!box || (typed != "." && typed != ",") || typed == box->locale().decimalPoint()) return false;
    mending_ = true;
    QKeyEvent other(QEvent::KeyPress, typed == "." ? Qt::Key_Comma : Qt::Key_Period, Qt::NoModifier,
                    box->locale().decimalPoint());
    QCoreApplication::sendEvent(box, &other);
    mending_ = false;
    return true;
  }

private:
  bool mending_ = false;
};

QString spokenOf(const QString& id) {
  const auto& all = spokenLanguages();
  const auto known = [&](const QString& wanted) {
    return std::any_of(all.begin(), all.end(), [&](const SpokenLanguage& l) { return l.id == wanted; });
  };
  if (known(id)) return id;
  for (const QString& wanted : QLocale::system().uiLanguages())
    if (const QString language = wanted.section('-', 0, 0); known(language)) return language;
  return all.front().id;
}

} // namespace

const std::vector<SpokenLanguage>& spokenLanguages() {
  static const std::vector<SpokenLanguage> all{{"en", "English"}, {"de", "Deutsch"}};
  return all;
}

void speakLanguage(const QString& id) {
  const QString language = spokenOf(id);
  auto* application = QCoreApplication::instance();
  application->installEventFilter(new EitherMark(application));
  QLocale locale(language);
  locale.setNumberOptions(QLocale::OmitGroupSeparator);
  QLocale::setDefault(locale);
  if (language == spokenLanguages().front().id) return;
  auto* ofQt = new QTranslator(application);
  if (ofQt->load("qtbase_" + language, QLibraryInfo::path(QLibraryInfo::TranslationsPath)))
    QCoreApplication::installTranslator(ofQt);
  makeWordsKnown();
  auto* words = new Words(application);
  if (!words->load(":/words/" + language + ".qm")) return;
  QCoreApplication::installTranslator(words);
  speak({[words](std::string_view english) {
           return words->translate(kList, std::string(english).c_str(), nullptr, -1).toStdString();
         },
         locale.decimalPoint().at(0).toLatin1()});
}

QString dateFormat() {
  const QLocale locale;
  if (locale.language() == QLocale::C || locale.language() == QLocale::English) return "yyyy-MM-dd";
  QString format = locale.dateFormat(QLocale::ShortFormat);
  return format.contains("yyyy") ? format : format.replace("yy", "yyyy");
}

QString shownDate(const std::string& iso) {
  const QString text = QString::fromStdString(iso);
  const QDate day = QDate::fromString(text, Qt::ISODate);
  return day.isValid() ? day.toString(dateFormat()) : text;
}

} // namespace ml
