// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/finished_picture.h"

#include <QObject>
#include <vector>

namespace ml {

enum class Comparing { Off, Divider, Beside };
/// What the picture is compared with. Earlier, OtherView: the same frames combined otherwise, or that view, under this
/// recipe.
enum class Against { OneExposure, Pinned, Earlier, OtherView, Reinhard, Drago, Durand };

/// Another picture beside the finished one.
class FinishCompare : public QObject {
  Q_OBJECT

public:
  FinishCompare(Desk& desk, FinishedPicture& picture);

  struct Comparand {
    Against against = Against::OneExposure;
    std::string key;    ///< Of Earlier its stamp, of OtherView its view.
    QString name;       ///< As a label says it.
    QString about = {}; ///< Where it comes from; may be empty.
    [[nodiscard]] bool same(const Comparand& other) const { return against == other.against && key == other.key; }
  };
  /// Everything there is to compare with.
  [[nodiscard]] std::vector<Comparand> comparands() const;
  [[nodiscard]] const Comparand& comparand() const { return comparand_; }
  /// Turns comparing on when it is off. Pinned takes the recipe as it is at this moment.
  void with(const Comparand& what);
  [[nodiscard]] Comparing how() const { return how_; }
  void set(Comparing how);
  /// Null: nothing.
  [[nodiscard]] QImage image() const;
  void draw();

signals:
  void changed();
  void drawn();

private:
  /// What the view was combined to before, since it was opened.
  struct Earlier {
    std::string stamp;
    QString name;
    std::shared_ptr<const CombinedPicture> picture;
  };
  void forget();
  void remember();
  [[nodiscard]] Recipe recipe() const;
  void drawOther(const View& other);

  Desk& desk_;
  FinishedPicture& picture_;
  Comparing how_ = Comparing::Off;
  Comparand comparand_;
  Recipe pinned_;
  std::optional<Earlier> now_; ///< Kept among the earlier ones when the view is combined anew.
  std::vector<Earlier> earlier_;
  QImage image_;
};

} // namespace ml
