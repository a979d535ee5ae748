// Every write path on a disk that fills at every possible page: all of it is there afterwards, or nothing.
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <csignal>
#include <cstdlib>
#include <random>

#include <gtest/gtest.h>

#include "core/study/exclusion.h"
#include "store/study/database.h"
#include "store/study/frame_codec.h"
#include "store/study/study_file.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

using core::ErrorKind;
using store::Database;

class FullDisks : public testing::Test {
 protected:
  FullDisks() {
    EXPECT_TRUE(Database::open(path_, Database::Mode::CreateNew)
                    ->execute("CREATE TABLE t (id INTEGER PRIMARY KEY, bytes BLOB)")
                    .ok());
  }
  static std::int64_t number(Database& database, const std::string& sql) {
    auto statement = database.prepare(sql);
    EXPECT_TRUE(statement.ok() && *statement->step());
    return statement->integer(0);
  }
  /// Two rows in one transaction, the second large.
  static core::Status writePair(Database& database) {
    return database.inTransaction([&]() -> core::Status {
      for (const std::size_t size : {std::size_t{10}, std::size_t{60000}}) {
        auto statement = database.prepare("INSERT INTO t (bytes) VALUES (?1)");
        if (!statement) return statement.error();
        const auto row = statement->bind(1, store::Blob{std::string(size, 'x')}).step();
        if (!row) return row.error();
      }
      return core::Done{};
    });
  }
  support::TestFolder folder_;
  std::string path_ = folder_ / "full.db";
};

TEST_F(FullDisks, LeaveAllOfATransactionOrNothing) {
  auto database = Database::open(path_, Database::Mode::OpenExisting);
  const std::int64_t pages = number(*database, "PRAGMA page_count");
  bool has_fitted = false;
  for (std::int64_t room = 0; room < 40 && !has_fitted; ++room) {
    ASSERT_TRUE(database->execute("PRAGMA max_page_count = " + std::to_string(pages + room)).ok());
    const core::Status written = writePair(*database);
    has_fitted = written.ok();
    if (!has_fitted) {
      EXPECT_EQ(written.error().kind, ErrorKind::DiskFull) << "with room for " << room;
      EXPECT_FALSE(written.error().remedy.empty());
    }
    EXPECT_EQ(number(*database, "SELECT count(*) FROM t"), has_fitted ? 2 : 0) << "with room for " << room;
    auto check = database->prepare("PRAGMA integrity_check");
    ASSERT_TRUE(*check->step());
    EXPECT_EQ(check->text(0), "ok");
  }
  EXPECT_TRUE(has_fitted);
}

// What a correction leaves behind when the program is killed in it: one number counts for the pass, the older or the
// newer, and a number that is left out has another beside it.
TEST(KilledPrograms, LeaveACorrectionWholeOrNotBegun) {
  const support::TestFolder folder;
  const std::string path = folder / "typed.ironlever";
  {
    auto file = store::StudyFile::create(path, support::studyOf({"workload", "{log}"}, 3));
    const auto visit = file->addVisit({0, 1, 1, core::ConfigurationId::Baseline, "boot", 0});
    ASSERT_TRUE(visit.ok());
  }
  // It tells of each correction by a byte: killed by the clock alone, a busy machine would not have begun.
  const auto correctForever = [&](int told) {
    auto file = store::StudyFile::open(path);
    for (int attempt = static_cast<int>(file->recorded()->passes.size()) + 1;; ++attempt) {
      core::Pass pass;
      pass.visit_id = 1;
      pass.attempt = attempt;
      pass.value = 60 + attempt;
      std::vector<store::Event> left_out;
      const auto recorded = file->recorded();
      for (const core::Pass& before : recorded->passes)
        if (before.excluded_because.empty())
          left_out.push_back({0, 1700000000000, "Ada", core::PassExcluded{before.id, core::kTypedWrongly}});
      if (!file->addPass(pass, {}, {}, left_out) || write(told, "c", 1) != 1) std::_Exit(1);
    }
  };
  std::mt19937 random(7);
  std::uniform_int_distribution<useconds_t> moment(0, 15'000);
  std::size_t passes = 0;
  for (int kills = 0; kills < 20; ++kills) {
    std::array<int, 2> pipe_ends{};
    ASSERT_EQ(pipe(pipe_ends.data()), 0);
    const pid_t child = fork();
    if (child == 0) correctForever(pipe_ends[1]);
    close(pipe_ends[1]);
    char told = 0;
    EXPECT_EQ(read(pipe_ends[0], &told, 1), 1);
    usleep(moment(random));
    ASSERT_EQ(kill(child, SIGKILL), 0);
    int status = 0;
    waitpid(child, &status, 0);
    close(pipe_ends[0]);
    ASSERT_TRUE(WIFSIGNALED(status)) << "it ended by itself";
    const auto recorded = store::StudyFile::open(path)->recorded();
    ASSERT_TRUE(recorded.ok()) << recorded.error().sentence();
    EXPECT_GT(recorded->passes.size(), passes) << "what it told of is there";
    passes = recorded->passes.size();
    const auto counting = std::count_if(recorded->passes.begin(), recorded->passes.end(),
                                        [](const core::Pass& pass) { return pass.excluded_because.empty(); });
    EXPECT_EQ(counting, 1);
    EXPECT_TRUE(recorded->passes.back().excluded_because.empty()) << "the newest counts";
  }
}

TEST(FrameCodec, GivesBackEveryBitOfAnySeries) {
  for (const std::vector<double>& series :
       {std::vector<double>{}, std::vector<double>{16.6}, std::vector<double>{1e-300, 5e-324, 1.7e308, 0.1, 1.0 / 3}}) {
    const auto back = store::unpackFrames(store::packFrames(series));
    ASSERT_TRUE(back.ok());
    EXPECT_EQ(*back, series);
  }
}

TEST(FrameCodec, MakesARealSeriesSmaller) {
  std::vector<double> series;
  for (int i = 0; i < 10000; ++i) series.push_back(16.0 + (i * 7919 % 1000) / 1000.0);  // three decimals, as logs have
  EXPECT_LT(store::packFrames(series).size(), series.size() * sizeof(double) * 3 / 4);
}

TEST(FrameCodec, RefusesEveryCutOfItsBytes) {
  const std::string packed = store::packFrames(std::vector<double>{16.6, 17.1, 33.2, 16.7});
  for (std::size_t size = 0; size < packed.size(); ++size)
    EXPECT_FALSE(store::unpackFrames(packed.substr(0, size)).ok()) << size;
}

TEST(Database, TellsApartWhatIsWrongWithAPath) {
  const support::TestFolder folder;
  EXPECT_EQ(Database::open(folder / "no/such/folder/x.db", Database::Mode::CreateNew).error().kind, ErrorKind::Io);
  EXPECT_EQ(Database::open(folder / "absent.db", Database::Mode::OpenExisting).error().kind, ErrorKind::Io);
}

TEST(Database, SaysThatSomebodyElseIsWriting) {
  const support::TestFolder folder;
  auto one = Database::open(folder / "x.db", Database::Mode::CreateNew);
  ASSERT_TRUE(one->execute("CREATE TABLE t (x); BEGIN IMMEDIATE").ok());
  auto other = Database::open(folder / "x.db", Database::Mode::OpenExisting);
  ASSERT_TRUE(other.ok());
  ASSERT_TRUE(other->execute("PRAGMA busy_timeout = 50").ok());
  EXPECT_EQ(other->execute("BEGIN IMMEDIATE").error().kind, ErrorKind::Busy);
}

}  // namespace
