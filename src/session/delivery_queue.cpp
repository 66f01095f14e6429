// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/delivery_queue.h"

#include "base/atomic_file.h"
#include "base/phrase.h"

#include <algorithm>
#include <nlohmann/json.hpp>
#include <set>

namespace ml {
using nlohmann::json;

namespace {

constexpr std::size_t kMostOrders = 10000; ///< More cannot be meant.

DeliveryOrder orderFrom(const json& j) {
  DeliveryOrder order{0,
                      j.at("view").get<std::string>(),
                      j.at("targets").get<std::vector<std::string>>(),
                      j.at("recipe").dump(),
                      j.at("pattern").get<std::string>(),
                      {},
                      j.value("problem", ""),
                      std::clamp(j.value("web_edge", 0), 0, 65535)};
  order.wishes.creator = j.value("creator", "");
  order.wishes.rights = j.value("rights", "");
  order.wishes.keepLocation = j.value("keep_location", true);
  return order;
}

bool sameBut(const DeliveryOrder& a, const DeliveryOrder& b) {
  return a.view == b.view && json::parse(a.recipe, nullptr, false) == json::parse(b.recipe, nullptr, false) &&
         a.pattern == b.pattern && a.wishes == b.wishes && a.problem == b.problem && a.webEdge == b.webEdge;
}

} // namespace

Result<std::vector<DeliveryOrder>> ordersFromJson(const std::string& text) {
  const json document = json::parse(text, nullptr, false);
  if (!document.is_object() || !document.contains("orders") || !document["orders"].is_array())
    return fail(ErrorCode::FileUnreadable, phrase("This is no list of files to deliver."));
  std::vector<DeliveryOrder> orders;
  for (const json& entry : document["orders"]) {
    if (orders.size() == kMostOrders) break;
    try {
      DeliveryOrder order = orderFrom(entry);
      order.id = int(orders.size()) + 1;
      if (!order.view.empty() && !order.targets.empty()) orders.push_back(std::move(order));
    } catch (const json::exception&) { // not one of ours
    }
  }
  return orders;
}

std::string toJson(const std::vector<DeliveryOrder>& orders) {
  json list = json::array();
  for (const DeliveryOrder& o : orders) {
    json entry{{"view", o.view},
               {"targets", o.targets},
               {"recipe", json::parse(o.recipe, nullptr, false)},
               {"pattern", o.pattern},
               {"creator", o.wishes.creator},
               {"rights", o.wishes.rights},
               {"keep_location", o.wishes.keepLocation}};
    if (!o.problem.empty()) entry["problem"] = o.problem;
    if (o.webEdge > 0) entry["web_edge"] = o.webEdge;
    list.push_back(std::move(entry));
  }
  return json{{"version", 1}, {"kind", "deliveries"}, {"orders", list}}.dump(2);
}

DeliveryQueue::DeliveryQueue(std::filesystem::path file) : file_(std::move(file)) {
  if (const auto text = readText(file_))
    if (auto orders = ordersFromJson(*text)) orders_ = std::move(*orders);
}

const DeliveryOrder* DeliveryQueue::find(int id) const {
  const auto found = std::find_if(orders_.begin(), orders_.end(), [id](const DeliveryOrder& o) { return o.id == id; });
  return found == orders_.end() ? nullptr : &*found;
}

const DeliveryOrder* DeliveryQueue::next() const {
  const auto found =
      std::find_if(orders_.begin(), orders_.end(), [](const DeliveryOrder& o) { return o.problem.empty(); });
  return found == orders_.end() ? nullptr : &*found;
}

Result<void> DeliveryQueue::add(DeliveryOrder order) {
  std::set<std::string> waiting;
  order.id = 1;
  for (const DeliveryOrder& o : orders_) {
    order.id = std::max(order.id, o.id + 1);
    if (sameBut(o, order)) waiting.insert(o.targets.begin(), o.targets.end());
  }
  std::erase_if(order.targets, [&](const std::string& target) { return waiting.contains(target); });
  if (order.targets.empty()) return {};
  orders_.push_back(std::move(order));
  return save();
}

Result<void> DeliveryQueue::move(int from, int to) {
  const int n = int(orders_.size());
  if (from < 0 || to < 0 || from >= n || to >= n || from == to) return {};
  const auto begin = orders_.begin();
  if (from < to)
    std::rotate(begin + from, begin + from + 1, begin + to + 1);
  else
    std::rotate(begin + to, begin + from, begin + from + 1);
  return save();
}

Result<void> DeliveryQueue::remove(int id) {
  return std::erase_if(orders_, [id](const DeliveryOrder& o) { return o.id == id; }) > 0 ? save() : Result<void>();
}

Result<void> DeliveryQueue::written(int id, const std::string& target) {
  for (DeliveryOrder& o : orders_)
    if (o.id == id) std::erase(o.targets, target);
  std::erase_if(orders_, [](const DeliveryOrder& o) { return o.targets.empty(); });
  return save();
}

Result<void> DeliveryQueue::refuse(int id, const std::string& problem) {
  for (DeliveryOrder& o : orders_)
    if (o.id == id) o.problem = problem;
  return save();
}

Result<void> DeliveryQueue::retry() {
  for (DeliveryOrder& o : orders_) o.problem.clear();
  return save();
}

Result<void> DeliveryQueue::save() const {
  return writeTextAtomically(file_, toJson(orders_));
}

} // namespace ml
