// A sheet on a machine that fails it: a disk that is full, read-only or faulty from any act on, the study's and that of
// the small files beside it; a clock that jumps; a second program that runs the same sheet.
#include "drill/drill.h"

namespace {

using drill::Drill;
using drill::part;

class UnrulyMachine : public Drill {
 protected:
  UnrulyMachine() {
    study_ = drill::withSetting(study_);
    setUpAgain();
    environment_.insert(QStringLiteral("LD_PRELOAD"),
                        QCoreApplication::applicationDirPath() + QStringLiteral("/libunruly_machine.so"));
    environment_.insert(QStringLiteral("IRON_LEVER_DRILL_PLACE"), QString::fromStdString(folder_.path()));
    environment_.insert(QStringLiteral("IRON_LEVER_DRILL_COUNT"), QString::fromStdString(folder_ / "acts"));
    // A preload comes before the sanitizers' own library.
    environment_.insert(QStringLiteral("ASAN_OPTIONS"), environment_.value(QStringLiteral("ASAN_OPTIONS")) +
                                                            QStringLiteral(":verify_asan_link_order=0:detect_leaks=0"));
  }
  void failFrom(const char* kind, long act) {
    environment_.insert(QStringLiteral("IRON_LEVER_DRILL_FAULT"),
                        QStringLiteral("%1:%2").arg(QLatin1String(kind)).arg(act));
  }
  void failNoMore() { environment_.remove(QStringLiteral("IRON_LEVER_DRILL_FAULT")); }

  void failOften(const char* kind) {
    expectItCanBeFinished();
    const long acts = std::stol("0" + support::contents(folder_ / "acts"));
    ASSERT_GT(acts, 100) << "the library counts what the program writes";
    std::mt19937_64 random(drill::seedOf(20261130));
    int held = 0;
    const int times = std::max(part(), 2);
    for (int i = 0; i < times && !HasFailure(); ++i) {
      setUpAgain();
      const long step = acts / times;
      const long from = 1 + i * step + static_cast<long>(random() % static_cast<std::uint64_t>(std::max(step, 1L)));
      SCOPED_TRACE(testing::Message() << kind << " from act " << from << " of " << acts);
      failFrom(kind, from);
      const int code = runSheet();
      held += code != 0 ? 1 : 0;
      EXPECT_TRUE(code == 0 || code == 1 || code == 3) << code << ' ' << problem_;
      failNoMore();
      expectNothingLost();
      expectItCanBeFinished();
    }
    tell(times, kind);
    if (std::string(kind) != "io") {
      EXPECT_GT(held, 0) << kind;
    }
  }
};

TEST_F(UnrulyMachine, WithAFullDiskLosesNothing) { failOften("full"); }
TEST_F(UnrulyMachine, WhoseDiskBecomesReadOnlyLosesNothing) { failOften("readonly"); }
TEST_F(UnrulyMachine, WhoseDiskFailsAtAnyActLosesNothing) { failOften("io"); }

TEST_F(UnrulyMachine, WhoseClockJumpsKeepsItsOrder) {
  for (int i = 0; i < part() && !HasFailure(); ++i) {
    setUpAgain();
    environment_.insert(QStringLiteral("IRON_LEVER_DRILL_CLOCK"),
                        QString::number(drill::seedOf(7) + static_cast<std::uint64_t>(i)));
    expectItCanBeFinished();
    std::size_t slot = 0;
    for (const core::Pass& pass : recorded().passes) {
      EXPECT_GE(pass.duration_s, 0);
      EXPECT_LT(pass.duration_s, 60) << "a jump is no duration";
      EXPECT_GE(pass.slot, slot);
      slot = pass.slot;
    }
  }
  tell(part(), "runs by a clock that jumps");
}

TEST_F(Drill, RunsInOneProgramAtATime) {
  int refused = 0;
  for (int i = 0; i < part() && !HasFailure(); ++i) {
    setUpAgain();
    QProcess one;
    QProcess other;
    begin(one);
    begin(other);
    other.waitForFinished(-1);
    const int other_code = take(other);
    const std::string other_problem = problem_;
    one.waitForFinished(-1);
    const int one_code = take(one);
    refused += (one_code == 1 ? 1 : 0) + (other_code == 1 ? 1 : 0);
    EXPECT_TRUE(one_code == 0 || other_code == 0 || one_code == 3 || other_code == 3) << problem_ << other_problem;
    expectNothingLost();
    expectItCanBeFinished();
  }
  tell(part(), "runs with a second program beside");
  EXPECT_GT(refused, 0) << "the second is told that the first runs it";
}

}  // namespace
