#include "session/far/far_course.h"

namespace session {
namespace {

core::Result<FarEnd> followed(FarSheet& sheet, const ReachedOrder& order, const FarWatcher& watcher) {
  const auto ended = sheet.follow(order, watcher.said);
  if (ended && !*ended) return FarEnd{FarEnd::How::Left};
  if (!ended && ended.error().kind == core::ErrorKind::Away) return ended.error();
  if (const auto fetched = sheet.fetchAtEnd(); !fetched) return fetched.error();
  if (!ended) return ended.error();
  return FarEnd{FarEnd::How::Ended, **ended};
}

}  // namespace

core::Result<FarEnd> runThere(FarSheet& sheet, OpenStudy& open, const ReachedOrder& order, const FarWatcher& watcher) {
  if (auto connected = sheet.connect(); !connected) return connected.error();
  watcher.connected(sheet);
  const auto running = sheet.isRunning();
  if (!running) return running.error();
  if (!*running) {
    if (const auto fetched = sheet.fetch(); !fetched) return fetched.error();
    if (!open.nextSlot() && !order.repeats_failed) return FarEnd{FarEnd::How::WasComplete};
    if (auto started = sheet.start(order); !started) return started.error();
  }
  watcher.begun(*running);
  return followed(sheet, order, watcher);
}

}  // namespace session
