// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/desk.h"
#include "model/ladder.h"
#include "model/picture_marks.h"
#include "model/text.h"

#include <QImage>
#include <QObject>
#include <QPolygonF>
#include <QStringList>
#include <functional>

namespace ml {

/// One step of the way through a view, as the window knows it. A station is one of these and one bench; nothing else
/// lists what stations there are.
class StationModel : public QObject {
  Q_OBJECT

public:
  explicit StationModel(Desk& desk);
  [[nodiscard]] Desk& desk() const { return desk_; }

  /// Never shown; the same in every language.
  [[nodiscard]] virtual QString id() const = 0;
  [[nodiscard]] virtual QString name() const = 0;
  /// Only with a view, as all that follows.
  [[nodiscard]] virtual StationState state() const = 0;
  /// The sentence above the picture, and the figures behind it.
  [[nodiscard]] virtual QString verdict() const = 0;
  [[nodiscard]] virtual QStringList reasons() const { return {}; }
  [[nodiscard]] virtual QImage picture() const;
  [[nodiscard]] virtual PictureMarks marks() const { return {}; }
  virtual void addTo(LadderContent&) const {}

  struct Next {
    QString words;
    bool possible = true;
    bool onlyGoes = false; ///< To another station: nothing is changed.
  };
  /// The one thing to do next.
  [[nodiscard]] virtual Next next() const = 0;
  virtual void doNext() = 0;

  /// It becomes the one that is shown: draws what it shows.
  virtual void enter();
  /// Another one is shown from now on.
  virtual void leave() {}
  /// Frames at their station, not what became of them.
  [[nodiscard]] virtual bool beforeCombining() const { return true; }

  // What the hand does on the picture, 0..1 of it; as marks().pointer says.
  virtual void click(QPointF) {}
  virtual void stroke(const QPolygonF&) {}
  virtual void dragBegins(QPointF) {}
  virtual void drag(QPointF) {}
  virtual void dragEnds(QPointF) {}
  /// What else can be done at a place of it.
  struct Choice {
    QString words;
    std::function<void()> work;
  };
  [[nodiscard]] virtual std::vector<Choice> choicesAt(QPointF) { return {}; }
  /// Draws a part of the picture at full size; answered by detailDrawn.
  virtual void showDetail(const QRectF& part);

signals:
  void changed(); ///< Anything but the picture.
  void pictureChanged();
  void detailDrawn(const QImage& part, const QRectF& place); ///< `place`: 0..1 of the picture.
  void goTo(const QString& station);                         ///< By its id: the work goes on there.

protected:
  /// Pixels behind `picture` as StationModel has it; empty: those on screen are all.
  [[nodiscard]] QSize frameSize() const { return desk_.frame.fullSize(); }

  Desk& desk_;
};

namespace stations {
inline const QString kLight = QStringLiteral("light"), kFrames = QStringLiteral("frames"),
                     kShoot = QStringLiteral("shoot"), kCombine = QStringLiteral("combine"),
                     kFinish = QStringLiteral("finish"), kDeliver = QStringLiteral("deliver");
}

} // namespace ml
