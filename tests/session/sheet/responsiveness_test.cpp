// What takes long beside the window must not stop the window: a machine that answers slowly, works in their order.
#include <gtest/gtest.h>

#include <QThread>
#include <QTimer>
#include <atomic>
#include <chrono>
#include <filesystem>
#include <thread>

#include "bench/local_bench.h"
#include "session/user/background.h"
#include "store/study/database.h"
#include "support/forwarding_bench.h"
#include "support/run_session.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

using std::chrono::milliseconds;
using std::chrono::steady_clock;

/// How often the event loop has turned: whoever works beside it can wait for that, so that no load on the machine that
/// runs the test decides its outcome.
class EventLoopTurns {
 public:
  EventLoopTurns() {
    QObject::connect(&tick_, &QTimer::timeout, [this] { ++turns_; });
    tick_.start(1);
  }
  EventLoopTurns(const EventLoopTurns&) = delete;
  EventLoopTurns& operator=(const EventLoopTurns&) = delete;

  /// Waits, in a thread beside the loop's, until the loop has turned twenty times; false where it stands.
  [[nodiscard]] bool waitForSome() const {
    constexpr int kSome = 20;
    constexpr auto kPatience = std::chrono::seconds(20);
    const int from = turns_;
    const auto until = steady_clock::now() + kPatience;
    while (turns_ < from + kSome && steady_clock::now() < until) std::this_thread::sleep_for(milliseconds(1));
    return turns_ >= from + kSome;
  }

 private:
  std::atomic<int> turns_ = 0;
  QTimer tick_;
};

/// This machine, but for one table that is not answered before the window's event loop has turned.
class SlowBench final : public support::ForwardingBench {
 public:
  [[nodiscard]] core::Result<std::string> readFile(const std::string& path) const override {
    if (path.ends_with("/DMI")) {
      ++slow_reads;
      window_answered = turns_.waitForSome() && window_answered;
    }
    return ForwardingBench::readFile(path);
  }

  mutable std::atomic<int> slow_reads = 0;
  mutable std::atomic<bool> window_answered = true;

 private:
  EventLoopTurns turns_;
};

TEST(Responsiveness, OfASheetDoesNotDependOnHowFastTheMachineAnswers) {
  const support::TestFolder folder;
  SlowBench bench;
  const session::UserFiles files = session::UserFiles::in(folder / "user");
  auto file =
      store::StudyFile::create(folder / "study.ironlever", support::timedStudyOf({"echo", "{\"seconds\": 1}"}, 1));
  ASSERT_TRUE(file);
  session::Session session(*std::move(file), bench, files, "M. Osei");
  ASSERT_TRUE(session.approve().ok());
  ASSERT_TRUE(session.start().ok());
  ASSERT_TRUE(support::waitUntil([&] { return !session.isRunning(); }));
  EXPECT_EQ(session.state(), session::State::Finished);
  EXPECT_EQ(session.recorded().captures.size(), 4U);  // before and after each of two visits
  EXPECT_GE(bench.slow_reads, 4);
  EXPECT_TRUE(bench.window_answered);
}

// Whoever holds the copy in the second folder makes that folder slow.
TEST(Responsiveness, OfASheetDoesNotDependOnHowFastItsCopyIsTaken) {
  const support::TestFolder folder;
  std::filesystem::create_directory(folder / "second");
  bench::LocalBench bench;
  const std::string path = folder / "study.ironlever";
  auto file = store::StudyFile::create(path, support::timedStudyOf({"echo", "{\"seconds\": 1}"}, 1));
  session::Session session(*std::move(file), bench, session::UserFiles::in(folder / "user"), "M. Osei");
  ASSERT_TRUE(session.approve().ok());
  ASSERT_TRUE(session.secondCopy().setFolder(folder / "second").ok());
  const std::string copy = session::copyPath(path, folder / "second");
  auto holder = store::Database::open(copy, store::Database::Mode::OpenExisting);
  ASSERT_TRUE(holder->execute("BEGIN EXCLUSIVE").ok());
  ASSERT_TRUE(session.start().ok());
  ASSERT_TRUE(support::waitUntil([&] { return session.recorded().passes.size() == 2; })) << "the sheet goes on";
  EXPECT_TRUE(session.isRunning()) << "and is not done before its copy is";
  ASSERT_TRUE(holder->execute("COMMIT").ok());
  ASSERT_TRUE(support::waitUntil([&] { return !session.isRunning(); }));
  EXPECT_EQ(store::StudyFile::open(copy)->recorded()->passes.size(), 2U);
}

TEST(Responsiveness, OfAStopIsNotLostWhileTheMachineIsRead) {
  const support::TestFolder folder;
  SlowBench bench;
  auto file =
      store::StudyFile::create(folder / "study.ironlever", support::timedStudyOf({"echo", "{\"seconds\": 1}"}, 1));
  session::Session session(*std::move(file), bench, session::UserFiles::in(folder / "user"), "M. Osei");
  ASSERT_TRUE(session.approve().ok());
  ASSERT_TRUE(session.start().ok());
  ASSERT_TRUE(support::waitUntil([&] { return bench.slow_reads > 0; }));
  session.stop(session::Stop::Now);
  ASSERT_TRUE(support::waitUntil([&] { return !session.isRunning(); }));
  EXPECT_EQ(session.state(), session::State::Idle);
  EXPECT_TRUE(session.recorded().passes.empty());
  ASSERT_TRUE(session.start().ok());  // and it goes on where it stood
  ASSERT_TRUE(support::waitUntil([&] { return !session.isRunning(); }));
  EXPECT_EQ(session.recorded().passes.size(), 2U);
}

TEST(Background, DoesItsWorksInOrderAndTellsInTheThreadThatAsked) {
  std::vector<int> told;
  {
    session::Background background;
    QThread* own = QThread::currentThread();
    for (int i = 0; i < 5; ++i)
      background.run<int>(
          [i] {
            std::this_thread::sleep_for(milliseconds(5 - i));
            return i;
          },
          [&told, own](const int& result) {
            EXPECT_EQ(QThread::currentThread(), own);
            told.push_back(result);
          });
    EXPECT_TRUE(background.isBusy());
    ASSERT_TRUE(support::waitUntil([&] { return !background.isBusy(); }));
    EXPECT_EQ(told, (std::vector{0, 1, 2, 3, 4}));
    background.run<int>([] { return 5; }, [&told](const int& result) { told.push_back(result); });
  }
  EXPECT_EQ(told.size(), 5U);  // nothing is told once nobody is there
}

}  // namespace
