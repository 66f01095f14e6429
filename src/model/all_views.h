// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/combine_model.h"
#include "model/view_pictures.h"

#include <QStringList>
#include <deque>

namespace ml {

/// All views of the job at once: they are combined in the background in the order of the list, each with its field
/// check, while the hand is at any of them; and what is done to several together. Work that the user waits for goes
/// first.
class AllViews : public QObject {
  Q_OBJECT

public:
  AllViews(Desk& desk, FinishedPicture& finished);

  ViewPictures pictures;

  /// Every view that has frames and is not combined yet is put into the queue.
  void combineMissing();
  /// These again, otherwise.
  void combine(const std::vector<std::string>& views, const CombineOptions& options);
  void stop();
  [[nodiscard]] bool running() const { return desk_.works.batch.running(); }
  [[nodiscard]] bool waiting() const { return running() || !queue_.empty(); }
  /// The view that is combined now; empty: none.
  [[nodiscard]] const std::string& current() const { return current_; }

  /// Whether they take part when all are delivered.
  void leaveOut(const std::vector<std::string>& views, bool out);

  /// Where a view stands, in a few words: "combining, 40 %", "finished, not delivered".
  [[nodiscard]] QString state(const View& view) const;
  /// True: somebody should look at it.
  [[nodiscard]] bool wantsALook(const View& view) const;
  /// What the field check or combining said of it; empty: nothing yet.
  [[nodiscard]] QString says(const View& view) const;
  /// One sentence about all.
  [[nodiscard]] QString verdict() const;

signals:
  void changed();
  void combined(const std::string& view); ///< In the background; no undo takes it back.

private:
  struct Piece {
    std::string view;
    CombineOptions options;
    bool onlyMissing = true; ///< False: asked for, combined already or not.
  };
  void next();
  void ended(const Piece& piece, const std::optional<Error>& problem);

  Desk& desk_;
  std::deque<Piece> queue_;
  std::string current_;
  std::map<std::string, std::string> problems_; ///< Why a view could not be combined.
  double share_ = 0;
};

} // namespace ml
