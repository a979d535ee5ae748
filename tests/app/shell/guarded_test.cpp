// What is thrown in the window, or in the thread beside it, ends nothing: it is told once, with the study's place.
#include <QTest>
#include <QTimer>
#include <stdexcept>

#include "session/user/background.h"
#include "support/guarded_application.h"
#include "support/studies.h"
#include "support/window.h"

namespace {

support::GuardedApplication& application() {
  return *static_cast<support::GuardedApplication*>(QCoreApplication::instance());
}

class GuardedWindow : public support::WindowTest {
 protected:
  GuardedWindow() {
    application().setPlace([] { return std::string("/studies/ring.ironlever"); });
    application().setOnFault([this](const core::Error& fault) { told_.push_back(fault); });
  }
  ~GuardedWindow() override {
    application().setPlace({});
    application().setOnFault({});
    application().takeFault();
  }
  std::vector<core::Error> told_;
};

TEST_F(GuardedWindow, TellsWhatAnEventThrowsOnceAndGoesOn) {
  openStudy(support::timedStudyOf({"echo", "{\"seconds\": 1}"}));
  for (int i = 0; i < 2; ++i) QTimer::singleShot(0, [] { throw std::domain_error("a number of none"); });
  bool goes_on = false;
  QTimer::singleShot(1, [&] { goes_on = true; });
  ASSERT_TRUE(support::waitUntil([&] { return goes_on; }));
  ASSERT_EQ(told_.size(), 1U) << "the second like it is not told again";
  EXPECT_NE(told_[0].sentence().find("a number of none"), std::string::npos);
  EXPECT_NE(told_[0].sentence().find("/studies/ring.ironlever"), std::string::npos);
  trigger("findingsAction");  // and the window still does what it is told
  EXPECT_TRUE(find<QWidget>("findingsPage")->isVisible());
}

TEST_F(GuardedWindow, TellsWhatTheThreadBesideItThrows) {
  session::Background beside;
  bool was_told = false;
  beside.run<int>([]() -> int { throw std::length_error("too long a capture"); }, [&](int) { was_told = true; });
  ASSERT_TRUE(support::waitUntil([&] { return !told_.empty(); }));
  EXPECT_NE(told_[0].sentence().find("too long a capture"), std::string::npos);
  EXPECT_FALSE(beside.isBusy()) << "it is free for the next work";
  EXPECT_FALSE(was_told);
  int result = 0;
  beside.run<int>([] { return 7; }, [&](int value) { result = value; });
  ASSERT_TRUE(support::waitUntil([&] { return result == 7; }));
}

}  // namespace
