// SPDX-License-Identifier: GPL-3.0-or-later
// ml_wire_campaign [SETS] [SEED]: sets of three frames whose connection is cut at random bytes, once to three times
// each. Nothing may be lost.
#include "cutting_proxy.h"
#include "wire_bench.h"

#include <cstdio>
#include <random>

int main(int count, char** arguments) {
  const int sets = count > 1 ? std::atoi(arguments[1]) : 1000;
  std::mt19937 random(count > 2 ? unsigned(std::atoi(arguments[2])) : 1);
  using namespace ml;
  int lost = 0, cuts = 0, again = 0;
  for (int i = 0; i < sets; ++i) {
    const bool own = random() % 2;
    QStringList options{"--haste", "0", "--files", random() % 2 ? "both" : "raw", "--seed", QString::number(i + 1)};
    if (!own) options << "--no-brackets";
    test::StandInProcess standIn(options);
    std::deque<long> at;
    for (unsigned n = 1 + random() % 3; n > 0; --n)
      at.push_back(long(std::exp2(std::uniform_real_distribution<>(5, 17.5)(random))));
    test::CuttingProxy proxy(standIn.port(), at);
    QTemporaryDir folder;
    WiredCamera camera("127.0.0.1:" + std::to_string(proxy.port()), shippedProfiles().front());
    const auto order = test::orderOf(folder.path(), test::ladder(3, 2));
    // As a person does: connect again, shoot again, until it is done.
    bool done = false;
    for (int tries = 0; tries < 6 && !done; ++tries) {
      if (tries) ++again;
      if (!camera.connect()) continue;
      ShootOrder rest = order;
      rest.frames.clear();
      for (std::size_t f = 0; f < order.frames.size(); ++f)
        if (!frameAt(order.folder, "frame-" + std::to_string(f + 1)))
          rest.frames.push_back(order.frames[f]), rest.numbers.push_back(int(f) + 1);
      done = rest.frames.empty() || shootBracket(camera, rest, {}, {}).has_value();
    }
    cuts += proxy.cut();
    const QString wrong = test::wrongWith(folder.path(), standIn.card(), 3);
    if (!done || !wrong.isEmpty()) {
      ++lost;
      std::printf("set %d (%s): %s; there: %s; on the card: %s\n", i, own ? "own bracket" : "one by one",
                  done ? qPrintable(wrong) : "never done",
                  qPrintable(QDir(folder.path()).entryList(QDir::Files).join(' ')),
                  qPrintable(QDir(standIn.card()).entryList(QDir::Files).join(' ')));
    }
    if ((i + 1) % 50 == 0)
      std::printf("%d sets, %d cuts, %d taken up by hand, %d lost\n", i + 1, cuts, again, lost), std::fflush(stdout);
  }
  std::printf("%d sets, %d cuts, %d taken up by hand, %d lost\n", sets, cuts, again, lost);
  return lost > 0;
}
