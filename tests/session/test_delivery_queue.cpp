// SPDX-License-Identifier: GPL-3.0-or-later
// The order of what waits to be delivered, and that it survives.
#include <QTest>

#include "base/atomic_file.h"
#include "finish/recipe.h"
#include "session/delivery_queue.h"
#include "support/scenes.h"

using namespace ml;

namespace {

DeliveryOrder orderOf(const std::string& view, std::vector<std::string> targets) {
  DeliveryOrder order;
  order.view = view;
  order.targets = std::move(targets);
  order.recipe = toJson(Recipe{});
  order.pattern = "{view}";
  order.wishes.creator = "A photographer";
  return order;
}

std::string viewsOf(const DeliveryQueue& queue) {
  std::string all;
  for (const DeliveryOrder& o : queue.orders()) all += o.view + " ";
  return all;
}

} // namespace

class TestDeliveryQueue : public QObject {
  Q_OBJECT

private slots:
  void keepsItsOrderInAFile() {
    QTemporaryDir dir;
    const auto file = test::pathOf(dir) / "deliveries.json";
    {
      DeliveryQueue queue(file);
      QVERIFY(queue.orders().empty() && !queue.next());
      for (const char* view : {"a", "b", "c", "d"}) QVERIFY(queue.add(orderOf(view, {"jpeg", "print"})).has_value());
      QVERIFY(queue.move(3, 0) && queue.move(1, 2) && queue.move(2, 9)); // the last goes nowhere
      QCOMPARE(viewsOf(queue), std::string("d b a c "));
      QCOMPARE(queue.next()->view, std::string("d"));
      QVERIFY(queue.written(queue.next()->id, "jpeg").has_value());
      QVERIFY(queue.refuse(queue.orders()[1].id, "the card is full").has_value());
    }
    DeliveryQueue again(file);
    QCOMPARE(viewsOf(again), std::string("d b a c "));
    QCOMPARE(again.orders()[0].targets, std::vector<std::string>{"print"});
    QCOMPARE(again.orders()[1].problem, std::string("the card is full"));
    QCOMPARE(again.orders()[2].wishes.creator, std::string("A photographer"));
    QVERIFY(recipeFromJson(again.orders()[2].recipe).has_value());
    QVERIFY(again.written(again.orders()[0].id, "print").has_value());
    QCOMPARE(again.next()->view, std::string("a")); // b could not be written
    QVERIFY(again.retry().has_value());
    QCOMPARE(again.next()->view, std::string("b"));
    QVERIFY(again.remove(again.next()->id).has_value());
    QCOMPARE(viewsOf(DeliveryQueue(file)), std::string("a c "));
  }

  void nothingIsAskedForTwice() {
    QTemporaryDir dir;
    DeliveryQueue queue(test::pathOf(dir) / "deliveries.json");
    QVERIFY(queue.add(orderOf("a", {"jpeg", "web"})) && queue.add(orderOf("a", {"web"})) &&
            queue.add(orderOf("a", {"web", "print"})));
    QCOMPARE(queue.orders().size(), std::size_t(2));
    QCOMPARE(queue.orders()[1].targets, std::vector<std::string>{"print"});
    DeliveryOrder lighter = orderOf("a", {"web"});
    Recipe recipe;
    recipe.tone.exposure = 0.5;
    lighter.recipe = toJson(recipe);
    QVERIFY(queue.add(lighter).has_value()); // another finish is another file
    QCOMPARE(queue.orders().size(), std::size_t(3));
    QVERIFY(queue.orders()[0].id != queue.orders()[2].id);
  }

  // One that could not be written stays as it is, with its reason; asked for again it is an order of its own.
  void whatWasRefusedCanBeAskedForAgain() {
    QTemporaryDir dir;
    DeliveryQueue queue(test::pathOf(dir) / "deliveries.json");
    QVERIFY(queue.add(orderOf("a", {"jpeg"})).has_value());
    QVERIFY(queue.refuse(queue.orders()[0].id, "the card is full").has_value());
    QVERIFY(queue.add(orderOf("a", {"jpeg"})).has_value());
    QCOMPARE(queue.orders().size(), std::size_t(2));
    QVERIFY(queue.orders()[1].problem.empty());
    QVERIFY(queue.next() && queue.next()->id == queue.orders()[1].id);
  }

  void whatCannotBeUnderstoodIsLeftOut() {
    for (const char* text : {"", "[]", "{", R"({"orders": 3})"})
      QCOMPARE(int(ordersFromJson(text).error().code), int(ErrorCode::FileUnreadable));
    const auto orders = ordersFromJson(
        R"({"orders": [1, {}, {"view": "a"}, {"view": 3, "targets": ["jpeg"], "recipe": {}, "pattern": ""},
      {"view": "a", "targets": [], "recipe": {}, "pattern": "x"}, {"view": "b", "targets": ["jpeg"], "recipe": {},
        "pattern": "x", "later": 1}]})");
    QVERIFY(orders && orders->size() == 1);
    QCOMPARE(orders->front().view, std::string("b"));
    QTemporaryDir dir;
    const auto file = test::pathOf(dir) / "deliveries.json";
    QVERIFY(writeTextAtomically(file, "half a fi").has_value());
    QVERIFY(DeliveryQueue(file).orders().empty());
  }

  void aFolderThatCannotBeWrittenIsSaid() {
    QTemporaryDir dir;
    QVERIFY(writeTextAtomically(test::pathOf(dir) / "job", "a file where the folder should be").has_value());
    DeliveryQueue queue(test::pathOf(dir) / "job" / "deliveries.json");
    QCOMPARE(int(queue.add(orderOf("a", {"jpeg"})).error().code), int(ErrorCode::CannotWrite));
  }
};

QTEST_GUILESS_MAIN(TestDeliveryQueue)
#include "test_delivery_queue.moc"
