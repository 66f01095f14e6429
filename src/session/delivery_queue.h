// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "pipeline/deliver_view.h"

#include <filesystem>
#include <string>
#include <vector>

namespace ml {

/// Files of one view that wait to be written.
struct DeliveryOrder {
  int id = 0;                       ///< Unique within the queue, never 0.
  std::string view;                 ///< Name of its folder.
  std::vector<std::string> targets; ///< Ids of what is still to be written.
  std::string recipe;               ///< JSON text: the finish as it was when this was asked for.
  std::string pattern;              ///< As for fileName.
  MetadataWishes wishes;
  std::string problem = {}; ///< Why it could not be written; empty: it waits its turn.
  int webEdge = 0;          ///< Longest side of files for the web, pixels; 0: the usual one.
  friend bool operator==(const DeliveryOrder&, const DeliveryOrder&) = default;
};

/// What a job still has to deliver, in order; kept in a file, so that it goes on after a stop, the end of the program,
/// or a crash. Each change is on disk when the call returns, or it returns why not.
class DeliveryQueue {
public:
  /// Reads `file`; one that is missing or cannot be understood is an empty queue.
  explicit DeliveryQueue(std::filesystem::path file);

  [[nodiscard]] const std::vector<DeliveryOrder>& orders() const { return orders_; }
  [[nodiscard]] const DeliveryOrder* find(int id) const;
  /// The first that waits; null: none.
  [[nodiscard]] const DeliveryOrder* next() const;

  /// Goes to the end; targets that wait already for the same view, finish, names and rights are not asked for twice.
  Result<void> add(DeliveryOrder order);
  /// The order at place `from` moves to place `to`; places beyond the ends are none.
  Result<void> move(int from, int to);
  Result<void> remove(int id);
  /// One file is there; with the last one the order is gone.
  Result<void> written(int id, const std::string& target);
  Result<void> refuse(int id, const std::string& problem);
  /// What could not be written waits again.
  Result<void> retry();

private:
  [[nodiscard]] Result<void> save() const;
  std::filesystem::path file_;
  std::vector<DeliveryOrder> orders_;
};

/// Errors: FileUnreadable. Entries without a view or targets are left out.
Result<std::vector<DeliveryOrder>> ordersFromJson(const std::string& text);
[[nodiscard]] std::string toJson(const std::vector<DeliveryOrder>& orders);

} // namespace ml
