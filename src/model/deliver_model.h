// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/finished_picture.h"
#include "model/station_model.h"
#include "pipeline/deliver_view.h"
#include "session/delivery_queue.h"

namespace ml {

/// Files to write at the Deliver station.
struct DeliverChoices {
  std::vector<std::string> targets{"jpeg", "archive"}; ///< Ids.
  bool allViews = false;                               ///< Of the job, but for those that are left out.
  std::vector<std::string> views; ///< These, by their folders, whatever else is chosen; empty: as above.
  std::string pattern = kNamePattern;
  MetadataWishes wishes;
};

/// A view on a printed sheet.
struct SheetPicture {
  QString name;
  QImage before, after;
};

/// Deliver: a queue that is written in order while other work goes on. It is kept on disk, so a pause, another job, the
/// end of the program and a crash are the same thing.
class DeliverModel : public StationModel {
  Q_OBJECT

public:
  DeliverModel(Desk& desk, FinishedPicture& finished);

  [[nodiscard]] QString id() const override { return stations::kDeliver; }
  [[nodiscard]] QString name() const override { return tr("Deliver"); }
  [[nodiscard]] StationState state() const override { return stationStates(desk_.view()).deliver; }
  [[nodiscard]] QString verdict() const override;
  [[nodiscard]] QStringList reasons() const override;
  [[nodiscard]] QImage picture() const override;
  [[nodiscard]] PictureMarks marks() const override;
  void addTo(LadderContent& content) const override;
  [[nodiscard]] Next next() const override;
  void doNext() override;
  void enter() override;
  void leave() override { shown_ = false; }
  void showDetail(const QRectF& part) override { finished_.showDetail(part); }

  /// What the next delivery writes.
  void choose(const DeliverChoices& choices);
  [[nodiscard]] const DeliverChoices& choices() const { return choices_; }
  /// What is there and current is not written again.
  void deliver(const DeliverChoices& choices);
  [[nodiscard]] const std::vector<DeliveryOrder>& orders() const;
  [[nodiscard]] bool running() const { return desk_.works.delivery.running(); }
  /// The order that is being written; 0: none.
  [[nodiscard]] int written() const { return running() ? writing_ : 0; }
  /// "Reading room: JPEG, OpenEXR"; the one that is written says how far it is.
  [[nodiscard]] QString line(const DeliveryOrder& order) const;
  /// Writes what waits, and tries again what could not be written.
  void goOn();
  void pause();
  void move(int from, int to);
  /// Takes an order out of the queue, also the one that is being written; files that are there stay.
  void remove(int id);
  /// Says it when files of a job that was just opened are still to be written.
  void sayWhatWaits();
  /// Before another job, or the end: what was written is noted, the rest waits on disk.
  void letGo();

  /// One exposure and the finish of every combined view, small; answered by sheetDrawn.
  void makeSheet();

signals:
  void progressed();
  void sheetDrawn(const std::vector<ml::SheetPicture>& pictures);

private:
  [[nodiscard]] DeliveryOrder orderFor(const View& view, const DeliverChoices& choices) const;
  [[nodiscard]] std::vector<std::string> toWrite(const View& view, const DeliverChoices& choices) const;
  [[nodiscard]] std::vector<const View*> chosenViews(const DeliverChoices& choices) const;
  [[nodiscard]] const View* nextView() const;
  void writeNext();
  void fileWritten(int order, const std::string& view, const DeliveredFile& file);
  void orderEnded(int order, const std::optional<Error>& problem);

  FinishedPicture& finished_;
  DeliverChoices choices_;
  std::optional<DeliveryQueue> queue_; ///< Of the job that is open.
  int writing_ = 0, filesWritten_ = 0;
  bool paused_ = false, justOpened_ = false, shown_ = false;
  double share_ = 0;
};

} // namespace ml
