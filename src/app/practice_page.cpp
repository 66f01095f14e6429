// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/practice_page.h"

#include "app/answer_editor.h"
#include "app/picture_view.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QScrollArea>
#include <QTextBrowser>
#include <QVBoxLayout>

namespace ml {
namespace {

constexpr int kExercisesWidth = 264, kAnswerWidth = 350, kTick = 250;
constexpr QSize kThumbnail{84, 56};

} // namespace

PracticePage::PracticePage(Workbench& workbench, QWidget* parent)
    : QFrame(parent), workbench_(workbench), model_(workbench.practice) {
  setObjectName("practicePage");
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(14, 8, 14, 8);
  row->setSpacing(12);
  row->addWidget(buildList());
  row->addWidget(buildExercise(), 1);
  connect(&model_, &PracticeModel::changed, this, &PracticePage::refresh);
  tick_.setInterval(kTick);
  connect(&tick_, &QTimer::timeout, this, [this] {
    if (!editor_ || model_.score()) return;
    editor_->tick(model_.seconds());
    const Exercise& exercise = *model_.current();
    clock_->setText(exercise.limitSeconds > 0
                        ? tr("%1 of %2 s").arg(model_.seconds(), 0, 'f', 0).arg(exercise.limitSeconds)
                        : tr("%1 s").arg(model_.seconds(), 0, 'f', 0));
  });
}

QWidget* PracticePage::buildList() {
  auto* box = new QWidget;
  box->setFixedWidth(grown(kExercisesWidth));
  auto* column = new QVBoxLayout(box);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(8);
  first_ = new QPushButton(tr("The first ten minutes"));
  first_->setObjectName("firstPath");
  first_->setToolTip(tr("From nothing to a finished picture of your own, with the why at each step"));
  list_ = new QListWidget;
  list_->setObjectName("exercises");
  list_->setAccessibleName(tr("Exercises"));
  list_->setWordWrap(true);
  caution_ = new QLabel(tr("Everything here is practice: it never becomes a visit. Exercises of a teacher lie in %1.")
                            .arg(text(model_.ownFolder().string())));
  caution_->setWordWrap(true);
  caution_->setProperty("role", "quiet");
  caution_->setFont(uiFont(8.5));
  caution_->setTextInteractionFlags(Qt::TextSelectableByMouse);
  column->addWidget(first_);
  column->addWidget(list_, 1);
  column->addWidget(caution_);
  connect(first_, &QPushButton::clicked, this, &PracticePage::firstPathWanted);
  connect(list_, &QListWidget::currentRowChanged, this, [this](int at) {
    if (!filling_ && at >= 0 && at < int(model_.exercises().size()))
      model_.begin(model_.exercises()[std::size_t(at)].id);
  });
  return box;
}

QWidget* PracticePage::buildExercise() {
  auto* box = new QWidget;
  auto* column = new QVBoxLayout(box);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(8);
  auto* head = new QHBoxLayout;
  title_ = new QLabel;
  title_->setObjectName("exerciseTitle");
  title_->setFont(uiFont(13, true));
  clock_ = new QLabel;
  clock_->setObjectName("exerciseClock");
  clock_->setFont(uiFont(12));
  clock_->setMinimumWidth(grown(130));
  clock_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  head->addWidget(title_, 1);
  head->addWidget(clock_);
  column->addLayout(head);
  auto* middle = new QHBoxLayout;
  middle->setSpacing(12);
  auto* left = new QVBoxLayout;
  picture_ = new PictureView;
  picture_->setObjectName("exercisePicture");
  picture_->setEmptyText({}, {});
  pictures_ = new QListWidget;
  pictures_->setObjectName("exercisePictures");
  pictures_->setAccessibleName(tr("Pictures"));
  pictures_->setViewMode(QListView::IconMode);
  pictures_->setFlow(QListView::LeftToRight);
  pictures_->setMovement(QListView::Static);
  pictures_->setWrapping(false);
  pictures_->setIconSize(kThumbnail);
  pictures_->setFixedHeight(kThumbnail.height() + 52); // name and scroll bar
  words_ = new QTextBrowser;
  words_->setObjectName("exerciseWords");
  words_->setAccessibleName(tr("What is known, and how it went"));
  words_->setFrameShape(QFrame::NoFrame);
  left->addWidget(picture_, 5);
  left->addWidget(pictures_);
  left->addWidget(words_, 2);
  middle->addLayout(left, 1);
  answerArea_ = new QScrollArea;
  answerArea_->setObjectName("answerArea");
  answerArea_->setWidgetResizable(true);
  answerArea_->setFrameShape(QFrame::NoFrame);
  answerArea_->setFixedWidth(grown(kAnswerWidth));
  middle->addWidget(answerArea_);
  column->addLayout(middle, 1);
  auto* foot = new QHBoxLayout;
  leave_ = new QPushButton(tr("Back to the list"));
  leave_->setObjectName("exerciseLeave");
  leave_->setProperty("role", "small");
  next_ = new QPushButton;
  next_->setObjectName("exerciseNext");
  next_->setProperty("role", "next");
  foot->addStretch();
  foot->addWidget(leave_);
  foot->addWidget(next_);
  column->addLayout(foot);
  connect(leave_, &QPushButton::clicked, &model_, &PracticeModel::leave);
  connect(next_, &QPushButton::clicked, this, &PracticePage::pressNext);
  connect(pictures_, &QListWidget::currentRowChanged, this, &PracticePage::showPicture);
  connect(picture_, &PictureView::clicked, this, [this](QPointF at) {
    if (!editor_ || !editor_->asksWhere() || model_.score()) return;
    editor_->point(pictures_->currentRow(), at);
    showMarks(pictures_->currentRow());
  });
  return box;
}

void PracticePage::pressNext() {
  if (editor_ && !model_.score()) return model_.answer(editor_->answer());
  if (const Exercise* exercise = model_.next()) model_.begin(exercise->id);
}

void PracticePage::showPicture(int index) {
  if (index < 0 || index >= int(model_.pictures().size())) return;
  picture_->setPicture(model_.pictures()[std::size_t(index)]);
  showMarks(index);
}

/// What was pointed at, and what is there once it was answered.
void PracticePage::showMarks(int index) {
  if (index < 0 || !model_.material()) return;
  PictureMarks marks;
  const auto ring = [&](double x, double y, const QString& name) {
    marks.rings.emplace_back(x, y);
    marks.ringNames.push_back(name);
  };
  if (const auto* truth = std::get_if<SpotTruth>(&model_.material()->truth)) // places only: their light is asked for
    for (const auto& spot : truth->spots) ring(spot.x, spot.y, QString::number(marks.rings.size() + 1));
  if (editor_ && editor_->asksWhere()) {
    if (!model_.score()) marks.pointer = PictureMarks::Pointer::Spot;
    if (const auto at = editor_->pointed(index)) ring(at->x(), at->y(), model_.score() ? QString() : tr("here"));
  }
  if (const auto* truth = std::get_if<FinishTruth>(&model_.material()->truth); truth && model_.score())
    if (const auto& picture = truth->pictures[std::size_t(index)]; picture.flaw != FinishFlaw::Natural)
      ring(picture.place.x, picture.place.y, tr("here it is"));
  picture_->setMarks(marks);
}

/// The editor is made once for an exercise, when its material is there.
void PracticePage::showExercise() {
  const Exercise* exercise = model_.current();
  const auto* material = model_.material();
  if (!exercise || !material) {
    delete answerArea_->takeWidget();
    editor_ = nullptr;
    shown_.clear();
    tick_.stop();
    return;
  }
  if (shown_ == exercise->id && editor_ && !(scored_ && !model_.score())) return;
  delete answerArea_->takeWidget();
  editor_ = makeAnswerEditor(model_);
  editor_->setObjectName("answer");
  answerArea_->setWidget(editor_);
  connect(editor_, &AnswerEditor::edited, this, &PracticePage::refresh);
  connect(editor_, &AnswerEditor::lookedAt, pictures_, [this](int picture) { pictures_->setCurrentRow(picture); });
  shown_ = exercise->id;
  tick_.start();
  pictures_->clear();
  for (std::size_t i = 0; i < material->pictures.size(); ++i) {
    const QImage& whole = model_.pictures()[i];
    const QImage small = whole.scaled(kThumbnail, Qt::KeepAspectRatio, Qt::SmoothTransformation);
    pictures_->addItem(new QListWidgetItem(QPixmap::fromImage(small), text(material->pictures[i].name)));
  }
  pictures_->setCurrentRow(material->pictures.empty() ? -1 : 0);
}

void PracticePage::refresh() {
  filling_ = true;
  const auto& exercises = model_.exercises();
  if (list_->count() != int(exercises.size())) list_->clear();
  for (int i = 0; i < int(exercises.size()); ++i) {
    const Exercise& e = exercises[std::size_t(i)];
    const double best = model_.best(e.id);
    QString words = tr("%1\n%2, level %3").arg(text(e.title), text(nameOf(e.kind))).arg(e.level);
    if (best >= 0) words += tr(" · best %1").arg(best, 0, 'f', 0);
    if (model_.due(e.id)) words += tr(" · due again");
    if (i >= list_->count()) list_->addItem(QString());
    list_->item(i)->setText(words);
    if (model_.current() && model_.current()->id == e.id) list_->setCurrentRow(i);
  }
  if (!model_.current()) list_->setCurrentRow(-1);
  filling_ = false;
  showExercise();
  const Exercise* exercise = model_.current();
  const auto* material = model_.material();
  const Score* score = model_.score();
  scored_ = score != nullptr;
  title_->setText(exercise ? tr("Practice: %1").arg(text(exercise->title)) : tr("Practice room"));
  picture_->setVisible(!model_.pictures().empty());
  pictures_->setVisible(model_.pictures().size() > 1);
  answerArea_->setVisible(editor_);
  if (editor_) editor_->setEnabled(!score);
  showMarks(pictures_->currentRow());
  QString html;
  if (score) {
    html += QString("<p><b>%1</b></p>").arg(model_.verdict().toHtmlEscaped());
    for (const auto& sentence : score->explanation)
      html += "<p style='margin:2px 0'>" + text(sentence).toHtmlEscaped() + "</p>";
  }
  if (material && (!score || model_.pictures().empty()))
    for (const auto& fact : material->facts) html += "<p style='margin:2px 0'>" + text(fact).toHtmlEscaped() + "</p>";
  if (!exercise)
    html = tr("<p>Choose an exercise, or begin with the one below. A spot within a third of a stop, the smallest "
              "bracket, what is "
              "wrong with a set: what you miss here costs nothing.</p><p>What went wrong on your own visits comes "
              "first; what you "
              "passed comes back after a day, three days, a week.</p>");
  words_->setHtml(html);
  clock_->setVisible(exercise);
  leave_->setVisible(exercise);
  const Exercise* next = model_.next();
  if (editor_ && !score) {
    next_->setText(tr("That is my answer"));
    next_->setEnabled(editor_->complete());
  } else {
    next_->setText(next ? tr("Practise: %1").arg(text(next->title)) : tr("Practise"));
    next_->setEnabled(next && !(exercise && !material));
  }
}

void PracticePage::setTheme(const Theme& theme) {
  theme_ = &theme;
  picture_->setTheme(theme);
}

} // namespace ml
