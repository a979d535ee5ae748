// Study files that somebody else has made, or a failing disk has changed: refused, or left out with a word.
// IRON_LEVER_DAMAGE=1000 in the environment makes it so many damaged bytes of each study; `./lever drill` does.
#include <gtest/gtest.h>

#include <cstdlib>
#include <fstream>
#include <random>
#include <set>

#include <fmt/format.h>

#include "core/judgement/judgement.h"
#include "core/study/schedule.h"
#include "report/json/findings_json.h"
#include "store/json/study_json.h"
#include "store/study/frame_codec.h"
#include "store/study/row_sum.h"
#include "store/study/study_file.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

using core::ErrorKind;
using store::Database;
using store::StudyFile;

int damages() {
  const char* asked = std::getenv("IRON_LEVER_DAMAGE");
  return asked ? std::atoi(asked) : 120;
}

// Two cases over three rounds, with frames, samples, captures and what people said.
void record(StudyFile& file) {
  std::mt19937 random(7);
  std::uniform_real_distribution<double> frame(9, 11);
  const auto schedule = core::scheduleOf(file.study());
  std::int64_t at_ms = 1'700'000'000'000;
  core::Visit visit;
  for (std::size_t slot = 0; slot < schedule.size(); ++slot) {
    if (visit.id == 0 || visit.planned != schedule[slot].visit) {
      visit =
          *file.addVisit({0, schedule[slot].visit, schedule[slot].round, schedule[slot].configuration, "boot", at_ms});
      core::Capture capture;
      core::Fact fact;
      fact.name = "cpu/online";
      fact.value = "0-7";
      capture.put(fact);
      ASSERT_TRUE(file.addCapture({visit.id, core::CaptureMoment::Start, capture}).ok());
    }
    core::Pass pass;
    pass.visit_id = visit.id;
    pass.slot = slot;
    pass.started_ms = at_ms += 60'000;
    pass.duration_s = 3;
    std::vector<double> frame_ms;
    const double scale = schedule[slot].configuration == core::ConfigurationId::Baseline ? 1 : 0.95;
    if (file.study().cases[schedule[slot].case_index].hasFrames()) {
      double total_ms = 0;
      for (int i = 0; i < 300; ++i) total_ms += frame_ms.emplace_back(scale * frame(random));
      pass.value = 1000 * static_cast<double>(frame_ms.size()) / total_ms;
    } else {
      pass.value = scale * frame(random);
    }
    ASSERT_TRUE(file.addPass(pass, frame_ms, {{1, 2}, {{"temp", "°C", {}, "chip", {}, {61, 62}}}}).ok());
  }
  ASSERT_TRUE(file.addEvent({0, at_ms, "M. Osei", core::PassExcluded{2, "the room was opened"}}).ok());
  ASSERT_TRUE(file.addEvent({0, at_ms, "M. Osei", core::ChangePredicted{3}}).ok());
}

core::Study twoCases() {
  core::Study study = support::studyOf({"workload", "{log}"});
  study.cases.push_back(support::timedStudyOf({"timed"}).cases[0]);
  study.cases.back().preset = "by the clock";
  study.plan.order = core::Order::BalancedShuffle;
  study.plan.rounds = 3;
  study.plan.drawn = core::drawRounds(2, 3, 1);
  return study;
}

class StrangersFiles : public testing::Test {
 protected:
  void make(const core::Study& study = twoCases()) {
    std::filesystem::remove(path_);
    auto file = StudyFile::create(path_, study);
    ASSERT_TRUE(file.ok()) << file.error().sentence();
    record(*file);
  }
  /// What a reader is told; nothing where the file is refused.
  std::optional<std::string> told(core::Status* refused = nullptr) {
    auto file = StudyFile::open(path_);
    auto recorded = file ? file->recorded() : core::Result<store::Recorded>(file.error());
    if (!recorded) {
      EXPECT_FALSE(recorded.error().remedy.empty());
      if (refused) *refused = recorded.error();
      return std::nullopt;
    }
    const core::Record record = store::recordOf(*recorded);
    return report::findingsJson(file->study(), record, core::judgementOf(file->study(), record)).dump(1);
  }
  /// Changes the file as somebody would who knows its sums too.
  void tamper(const std::string& sql, const char* table = nullptr) {
    auto database = Database::open(path_, Database::Mode::OpenExisting);
    ASSERT_TRUE(store::addRowSum(*database).ok());
    ASSERT_TRUE(database->execute(sql).ok()) << sql;
    if (!table) return;
    const std::string sealed = fmt::format("UPDATE {} SET sum = row_sum({})", table, store::summedColumns(table));
    ASSERT_TRUE(database->execute(sealed).ok());
  }
  void expectRefused(ErrorKind kind, const char* word) {
    core::Status refused = core::Done{};
    EXPECT_FALSE(told(&refused)) << word;
    ASSERT_FALSE(refused.ok()) << word;
    EXPECT_EQ(refused.error().kind, kind) << refused.error().sentence();
    EXPECT_NE(refused.error().what.find(word), std::string::npos) << refused.error().sentence();
  }

  support::TestFolder folder_;
  std::string path_ = folder_ / "study.ironlever";
};

TEST_F(StrangersFiles, AreWholeBeforeAnythingIsDoneToThem) {
  make();
  ASSERT_TRUE(told());
  EXPECT_EQ(told()->find("damaged"), std::string::npos);
}

// A byte of the disk changes: never another number without a word, never a crash.
TEST_F(StrangersFiles, AreNeverReadWithAnotherNumberAfterDamage) {
  core::Study plain = support::timedStudyOf({"timed"}, 6);
  int refused = 0, left_out = 0, untouched = 0;
  for (const core::Study& study : {twoCases(), plain}) {
    make(study);
    const std::string whole = support::contents(path_);
    const std::string before = *told();
    std::mt19937 random(static_cast<unsigned>(study.cases.size()));
    for (int i = 0; i < damages(); ++i) {
      std::string damaged = whole;
      const std::size_t at = std::uniform_int_distribution<std::size_t>(0, whole.size() - 1)(random);
      damaged[at] = static_cast<char>(damaged[at] ^ std::uniform_int_distribution<int>(1, 255)(random));
      folder_.write("study.ironlever", damaged);
      std::filesystem::remove(path_ + "-journal");
      const auto after = told();
      if (!after)
        ++refused;
      else if (after->find("damaged in the study file") != std::string::npos)
        ++left_out;
      else
        ++untouched;
      if (after && *after != before) {
        EXPECT_NE(after->find("damaged in the study file"), std::string::npos) << "byte " << at;
      }
    }
  }
  std::cout << fmt::format("{} damaged bytes: {} times refused, {} times a pass left out, {} times nothing changed\n",
                           2 * damages(), refused, left_out, untouched);
  EXPECT_GT(refused, 0);
  EXPECT_GT(left_out, 0);
}

TEST_F(StrangersFiles, HoldNoTablesOfTheirOwn) {
  const struct {
    const char* sql;
    ErrorKind kind;
    const char* word;
  } foreign[] = {
      {"CREATE TRIGGER swallow BEFORE INSERT ON pass BEGIN SELECT RAISE(IGNORE); END", ErrorKind::ForeignFile,
       "trigger 'swallow'"},
      {"CREATE VIEW visits AS SELECT 1", ErrorKind::ForeignFile, "view 'visits'"},
      {"CREATE TABLE mine (x)", ErrorKind::ForeignFile, "table 'mine'"},
      {"CREATE INDEX quick ON pass (slot)", ErrorKind::ForeignFile, "index 'quick'"},
      {"DROP TABLE capture", ErrorKind::DamagedFile, "capture"},
      {"ALTER TABLE event ADD COLUMN more TEXT", ErrorKind::DamagedFile, "table 'event'"},
      {"PRAGMA user_version = 3", ErrorKind::ForeignFile, "that no study has"},
  };
  for (const auto& one : foreign) {
    make();
    tamper(one.sql);
    expectRefused(one.kind, one.word);
  }
}

// SQLite lets nobody make a thing of that name; in the bytes of a file it stands as any other.
TEST_F(StrangersFiles, HideNothingBehindTheNameOfTheLibrarysOwnTables) {
  for (const char* sql : {"CREATE TRIGGER swallow_stat BEFORE INSERT ON pass BEGIN SELECT RAISE(IGNORE); END",
                          "CREATE VIEW swallow_stat AS SELECT 1"}) {
    make();
    tamper(sql);
    std::string bytes = support::contents(path_);
    const std::string name = "swallow_stat";
    for (std::size_t at = bytes.find(name); at != std::string::npos; at = bytes.find(name))
      bytes.replace(at, name.size(), "sqlite_stat1");
    std::ofstream(path_, std::ios::binary | std::ios::trunc) << bytes;
    core::Status refused = core::Done{};
    EXPECT_FALSE(told(&refused)) << sql;
    EXPECT_FALSE(refused.ok());
    EXPECT_TRUE(support::contents(path_) == bytes) << "it was left as it is";
  }
}

// Files whose rows have sums that hold, and say what no program of ours has written.
TEST_F(StrangersFiles, AreReadOnlyWithinThePlan) {
  const struct {
    const char* sql;
    const char* table;
    const char* word;
  } wrong[] = {
      {"UPDATE visit SET configuration = 7 WHERE id = 2", "visit", "visit 2"},
      {"UPDATE visit SET planned = 0", "visit", "visit 1"},
      {"UPDATE visit SET round = 99999999", "visit", "visit 1"},
      {"UPDATE visit SET started_ms = -9223372036854775807 WHERE id = 2", "visit", "no start time"},
      {"UPDATE event SET at_ms = 9223372036854775807 WHERE id = 1", "event", "no time"},
      {"UPDATE pass SET slot = 99999999 WHERE id = 3", "pass", "place is lost"},
      {"UPDATE pass SET slot = -1 WHERE id = 3", "pass", "place is lost"},
      {"UPDATE capture SET moment = 9 WHERE id = 1", "capture", "moment"},
      {"UPDATE capture SET visit_id = 900 WHERE id = 1", "capture", "no visit"},
      {"UPDATE event SET subject = '99999999' WHERE id = 1", "event", "event 1"},
      {"UPDATE event SET subject = 'two' WHERE id = 1", "event", "event 1"},
      {"DELETE FROM event WHERE id = 1", "event", "lost a row"},
      {"UPDATE study SET design = replace(design, '\"rounds\": 3', '\"rounds\": 2000000000')", "study", "rounds"},
      {"UPDATE study SET design = replace(design, '\"confidence\": 0.95', '\"confidence\": 1')", "study", "confidence"},
  };
  for (const auto& one : wrong) {
    make();
    tamper(fmt::format("PRAGMA foreign_keys = OFF; {}", one.sql), one.table);
    expectRefused(ErrorKind::DamagedFile, one.word);
  }
}

TEST_F(StrangersFiles, LeaveAPassOutThatDoesNotHoldTogether) {
  for (const char* sql :
       {"UPDATE pass SET value = value * 1.01 WHERE id = 1", "UPDATE pass SET status = 5 WHERE id = 1",
        "UPDATE pass SET frames = x'00' WHERE id = 1", "UPDATE pass SET frame_count = 9 WHERE id = 1",
        "UPDATE pass SET samples = x'28' WHERE id = 1", "UPDATE pass SET duration_s = 9e999 WHERE id = 1",
        "UPDATE pass SET attempt = -4 WHERE id = 1"}) {
    make();
    tamper(sql, "pass");
    const auto said = told();
    ASSERT_TRUE(said) << sql;
    EXPECT_NE(said->find("1 pass is damaged in the study file"), std::string::npos) << sql;
  }
}

// A frame series says how many frames it has: one that would unpack to more is never unpacked.
TEST_F(StrangersFiles, CannotUnpackMoreThanTheySay) {
  const std::string bomb = store::packFrames(std::vector<double>(std::size_t{1} << 22, 16.0));
  EXPECT_LT(bomb.size(), std::size_t{1} << 14);
  EXPECT_FALSE(store::unpackFrames(bomb, 300).ok());
  EXPECT_FALSE(store::unpackFrames(bomb, -1).ok());
  EXPECT_EQ(store::unpackFrames(bomb, std::int64_t{1} << 22)->size(), std::size_t{1} << 22);
}

// Whatever the file does with what is written into it, a pass is filed or it is not.
TEST_F(StrangersFiles, SwallowNoPassUnnoticed) {
  make();
  auto file = StudyFile::open(path_);
  tamper("CREATE TRIGGER swallow BEFORE INSERT ON pass BEGIN SELECT RAISE(IGNORE); END");
  core::Pass pass;
  pass.visit_id = 1;
  pass.slot = 1;
  pass.attempt = 2;
  pass.value = 1;
  const auto filed = file->addPass(pass, {});
  auto database = Database::open(path_, Database::Mode::OpenExisting);
  auto count = database->prepare("SELECT count(*) FROM pass WHERE attempt = 2");
  ASSERT_TRUE(*count->step());
  EXPECT_EQ(filed.ok(), count->integer(0) == 1);
}

TEST_F(StrangersFiles, OfManyEventsOpen) {
  make();
  tamper(
      "WITH RECURSIVE n(i) AS (SELECT 3 UNION ALL SELECT i + 1 FROM n WHERE i < 200000) "
      "INSERT INTO event (id, at_ms, person, kind, subject, text) SELECT i, i, 'p' || i, "
      "iif(i % 2, 'predicted', 'stated'), 'x' || i, '1' FROM n",
      "event");
  ASSERT_TRUE(told());
}

TEST(StudyPaths, AreNamesOfFilesAndNothingElse) {
  const support::TestFolder folder;
  const core::Study study = twoCases();
  for (const std::string& path : {std::string(), std::string(":memory:"), folder / "new/", folder / "."})
    EXPECT_EQ(StudyFile::create(path, study).error().kind, ErrorKind::OutOfRange) << path;
  const std::string uri = "file:" + (folder / "x.ironlever?mode=memory");
  std::filesystem::current_path(folder.path());
  (void)StudyFile::create(uri, study);
  EXPECT_FALSE(std::filesystem::exists(folder / "x.ironlever"));
}

}  // namespace
