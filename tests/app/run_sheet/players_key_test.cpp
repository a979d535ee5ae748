// The key that is heard while another program has the keyboard, on a real X server.
#include <gtest/gtest.h>

#include "session/user/global_key.h"
#include "support/pressed_key.h"
#include "support/studies.h"
#include "support/virtual_display.h"
#include "support/window.h"

namespace {

using support::kAltKey;
using support::kControlKey;
using support::kSpaceKey;
using support::pressKeys;
using support::waitUntil;

class PlayersKey : public support::WindowTest {
 protected:
  support::VirtualDisplay display_;
};

TEST_F(PlayersKey, IsHeardOnlyWhileItIsHeld) {
  session::GlobalKey key(QByteArray::fromStdString(display_.name()));
  int heard = 0;
  QObject::connect(&key, &session::GlobalKey::pressed, [&] { ++heard; });
  pressKeys(display_.name(), {kControlKey, kAltKey, kSpaceKey});
  ASSERT_TRUE(waitUntil([&] { return key.hold(true); }));
  pressKeys(display_.name(), {kControlKey, kAltKey, kSpaceKey});
  ASSERT_TRUE(waitUntil([&] { return heard == 1; }));
  pressKeys(display_.name(), {kSpaceKey});  // without its modifiers it belongs to whoever has the keyboard
  pressKeys(display_.name(), {support::kNumLockKey});
  pressKeys(display_.name(), {kControlKey, kAltKey, kSpaceKey});  // a lock is no other key
  ASSERT_TRUE(waitUntil([&] { return heard == 2; }));
  EXPECT_FALSE(key.hold(false));
  pressKeys(display_.name(), {kControlKey, kAltKey, kSpaceKey});
  ASSERT_TRUE(waitUntil([&] { return key.hold(true); }));
  pressKeys(display_.name(), {kControlKey, kAltKey, kSpaceKey});
  ASSERT_TRUE(waitUntil([&] { return heard == 3; }));
}

TEST_F(PlayersKey, IsNotHeldWhereAnotherHasItOrThereIsNoServer) {
  const QByteArray name = QByteArray::fromStdString(display_.name());
  session::GlobalKey first(name);
  session::GlobalKey second(name);
  ASSERT_TRUE(waitUntil([&] { return first.hold(true); }));
  EXPECT_FALSE(second.hold(true));
  EXPECT_FALSE(first.hold(false));
  EXPECT_TRUE(waitUntil([&] { return second.hold(true); }));  // once the server has seen the other go
  EXPECT_FALSE(session::GlobalKey(":987").hold(true));
}

TEST_F(PlayersKey, BeginsAndEndsTheCountedStretchFromWithinTheProgram) {
  core::Study study = support::studyOf({"iron-lever-probe", "scene", "--seconds", "60", "--out", "{log}"}, 1);
  study.cases[0].is_played = true;
  study.cases[0].route = "once around the rings";
  study.cases[0].played_s = 50;
  const QByteArray before = qgetenv("DISPLAY");
  qputenv("DISPLAY", QByteArray::fromStdString(display_.name()));
  openStudy(study);
  trigger("runSheetAction");
  study_->act([](session::Session& s) { return s.approve(); });
  study_->act(&session::Session::start);
  ASSERT_TRUE(waitUntil([this] { return study_->session().state() == session::State::AwaitingPlayer; }));
  EXPECT_TRUE(textOf("handSteps").contains(QStringLiteral("Ctrl+Alt+Space"))) << textOf("handSteps").toStdString();
  study_->act([&](session::Session& s) { return s.startPlaying(); });
  ASSERT_TRUE(waitUntil([this] { return nextText() == QStringLiteral("Count from here"); }));
  pressKeys(display_.name(), {kControlKey, kAltKey, kSpaceKey});
  ASSERT_TRUE(waitUntil([this] { return textOf("handTitle").startsWith(QStringLiteral("Counting:")); }));
  ASSERT_TRUE(waitUntil([this] {
    return study_->session().pass().stretch()->secondsLeft(study_->session().pass().secondsInPass()) < 48;
  }));
  pressKeys(display_.name(), {kControlKey, kAltKey, kSpaceKey});
  ASSERT_TRUE(waitUntil([this] { return !study_->session().recorded().passes.empty(); }));
  const core::Pass& pass = study_->session().recorded().passes[0];
  ASSERT_EQ(pass.status, core::PassStatus::Finished) << pass.failure;
  EXPECT_LT(static_cast<double>(pass.frames->frames) / pass.frames->average_fps, 10);
  study_->stopNow();
  before.isEmpty() ? qunsetenv("DISPLAY") : qputenv("DISPLAY", before);
}

}  // namespace
