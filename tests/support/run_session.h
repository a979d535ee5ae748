#pragma once

#include <QEventLoop>
#include <QTimer>
#include <functional>

#include "session/sheet/session.h"

namespace support {

/// Runs the event loop until `is_true`, or two minutes have passed. Checked whenever something happened.
inline bool waitUntil(const std::function<bool()>& is_true, int limit_ms = 120000) {
  QEventLoop loop;
  QTimer poll;
  QTimer limit;
  QObject::connect(&poll, &QTimer::timeout, &loop, [&] {
    if (is_true()) loop.quit();
  });
  limit.setSingleShot(true);
  QObject::connect(&limit, &QTimer::timeout, &loop, &QEventLoop::quit);
  poll.start(5);
  limit.start(limit_ms);
  if (!is_true()) loop.exec();
  return is_true();
}

}  // namespace support
