// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/desk.h"

#include <QObject>
#include <cstdint>
#include <functional>

namespace ml {

/// Keeps what happens to the views of the open job, and how long somebody works on each at which station: in the view's
/// journal, where the logbook reads it. A pause longer than kPause is no work.
class Chronicle : public QObject {
  Q_OBJECT

public:
  /// Seconds since 1970, UTC.
  using Clock = std::function<std::int64_t()>;
  static constexpr std::int64_t kPause = 60, kKeepAfter = 20;

  explicit Chronicle(Desk& desk, Clock clock = {});

  /// Somebody did something, at this station of the view in hand.
  void active(const QString& station);
  /// What was counted is put into the views.
  void keep();
  /// The picture was judged when its finish was left.
  void judged(const QString& words);

private:
  void changed(const std::string& view, Aspect aspect);
  void note(const std::string& view, const std::vector<ViewEvent>& news);

  Desk& desk_;
  Clock clock_;
  std::int64_t last_ = 0;
  std::string view_;
  QString station_;
  double pending_ = 0;
};

/// What is new about a view since its events were written, `at` a moment: frames that were shot, verdicts, a picture
/// combined, files delivered.
[[nodiscard]] std::vector<ViewEvent> newsOf(const View& view, Aspect aspect, std::int64_t at);

} // namespace ml
