// Studies that somebody wrote with right sums: rows that contradict the plan, and bounds on what a file may ask for.
#include <span>

#include <gtest/gtest.h>

#include "core/judgement/judgement.h"
#include "core/study/schedule.h"
#include "store/json/capture_json.h"
#include "store/json/json_text.h"
#include "store/json/study_json.h"
#include "store/study/frame_codec.h"
#include "store/study/study_file.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

using core::ConfigurationId;
using core::ErrorKind;
using store::StudyFile;

class StrangersStudies : public testing::Test {
 protected:
  StrangersStudies() : file_(*StudyFile::create(path_, support::studyOf({"workload", "{log}"}, 3))) {}
  static core::Pass passAt(std::size_t slot, std::int64_t visit, double value = 60) {
    core::Pass pass;
    pass.visit_id = visit;
    pass.slot = slot;
    pass.value = value;
    return pass;
  }
  [[nodiscard]] core::Result<store::Recorded> read() const { return StudyFile::open(path_)->recorded(); }

  support::TestFolder folder_;
  std::string path_ = folder_ / "study.ironlever";
  StudyFile file_;
};

TEST_F(StrangersStudies, WhoseVisitsAreNotThoseOfThePlanAreRefused) {
  // Levels that are swapped would turn the claim round.
  ASSERT_TRUE(file_.addVisit({0, 1, 1, ConfigurationId::Changed, "boot", 1}).ok());
  ASSERT_FALSE(read().ok());
  EXPECT_EQ(read().error().kind, ErrorKind::DamagedFile);
  EXPECT_NE(read().error().what.find("visit 1 is none of the plan's"), std::string::npos);
}

TEST_F(StrangersStudies, WhoseRoundsAreNotThoseOfThePlanAreRefused) {
  ASSERT_TRUE(file_.addVisit({0, 1, 2, ConfigurationId::Baseline, "boot", 1}).ok());
  EXPECT_EQ(read().error().kind, ErrorKind::DamagedFile);
}

TEST_F(StrangersStudies, WhosePassesLieInAnotherVisitCountNoneOfThem) {
  const auto first = file_.addVisit({0, 1, 1, ConfigurationId::Baseline, "boot", 1});
  ASSERT_TRUE(file_.addPass(passAt(0, first->id), {}).ok());
  const std::size_t of_second = core::scheduleOf(file_.study()).size() - 1;
  ASSERT_TRUE(file_.addPass(passAt(of_second, first->id, 90), {}).ok());
  const auto recorded = read();
  ASSERT_TRUE(recorded.ok());
  EXPECT_EQ(recorded->passes[0].status, core::PassStatus::Finished);
  EXPECT_EQ(recorded->passes[1].status, core::PassStatus::Failed);
  EXPECT_NE(recorded->passes[1].failure.find("another visit"), std::string::npos) << recorded->passes[1].failure;
}

// A few hundred kilobytes that would take gigabytes: what a study unpacks to is bounded by what it takes itself.
TEST_F(StrangersStudies, UnpackToNoMoreThanTheirSizeAllows) {
  const auto visit = file_.addVisit({0, 1, 1, ConfigurationId::Baseline, "boot", 1});
  for (int attempt = 1; attempt <= 4; ++attempt) {
    core::Pass pass = passAt(0, visit->id);
    pass.attempt = attempt;
    pass.settings = std::string(std::size_t{12} << 20, ' ');
    ASSERT_TRUE(file_.addPass(pass, {}).ok());
  }
  const auto recorded = read();
  ASSERT_TRUE(recorded.ok());
  std::size_t kept = 0;
  for (const core::Pass& pass : recorded->passes) kept += pass.settings.size();
  EXPECT_LE(kept, std::size_t{24} << 20);
  EXPECT_EQ(recorded->passes[0].status, core::PassStatus::Finished) << "a large one by itself is fine";
  EXPECT_EQ(recorded->passes[3].status, core::PassStatus::Failed);
  EXPECT_NE(recorded->passes[3].failure.find("far more than its size allows"), std::string::npos);
}

TEST_F(StrangersStudies, KeepNoPassThatIsTooLong) {
  const std::vector<double> none;
  // By its own word alone: the series need not be there to be refused.
  const auto visit = file_.addVisit({0, 1, 1, ConfigurationId::Baseline, "boot", 1});
  const std::span<const double> too_long(none.data(), store::kMostFrames + 1);
  const auto filed = file_.addPass(passAt(0, visit->id), too_long);
  ASSERT_FALSE(filed.ok());
  EXPECT_EQ(filed.error().kind, ErrorKind::OutOfRange);
  EXPECT_TRUE(read()->passes.empty());
}

TEST(StrangersNumbers, AreNotTakenForSmallerOnes) {
  const std::string design = store::studyToJson(support::roundsOf(6, 1));
  const auto with = [&](const std::string& field) {
    std::string changed = design;
    changed.insert(changed.find("\"plan\": {") + 9, field + ",");
    return store::studyFromJson(changed, "design");
  };
  EXPECT_TRUE(with("\"looks\": [3, 6]").ok());
  for (const char* number : {"4294967299", "18446744073709551619", "18446744073709551615", "-4294967293"})
    for (const std::string& field :
         {"\"looks\": [" + std::string(number) + ", 6]", "\"seed\": " + std::string(number)}) {
      const auto read = with(field);
      ASSERT_FALSE(read.ok()) << field;
      EXPECT_EQ(read.error().kind, ErrorKind::Malformed) << field;
    }
  EXPECT_FALSE(store::captureFromJson(R"({"format": "iron-lever-capture", "version": 4294967297, "taken_ms": 0,
                                          "boot_id": "", "readings": {}})",
                                      "capture")
                   .ok());
  for (const char* moment : {"1e300", "0.5", "18446744073709551615", "\"now\""})
    EXPECT_FALSE(store::captureFromJson(
                     R"({"format": "iron-lever-capture", "version": 1, "boot_id": "", "readings": {}, "taken_ms": )" +
                         std::string(moment) + "}",
                     "capture")
                     .ok())
        << moment;
}

TEST(StrangersNames, AreNotLongerThanAnybodyWrites) {
  core::Study study = support::studyOf({"workload", "{log}"}, 3);
  EXPECT_TRUE(core::numbersOutOfRange(study).empty());
  study.bench = std::string(500, 'x');
  EXPECT_TRUE(core::numbersOutOfRange(study).empty());
  for (std::string* name : {&study.bench, &study.variable().name, &study.variable().levels[1].name,
                            &study.cases[0].preset, &study.cases[0].metric.unit}) {
    const std::string was = *name;
    name->assign(501, 'x');
    EXPECT_FALSE(core::numbersOutOfRange(study).empty());
    *name = was;
  }
  for (core::Command* command : {&study.cases[0].command, &study.measure_command, &study.variable().levels[0].prefix}) {
    command->assign(9, std::string(4'000, 'x'));
    EXPECT_FALSE(core::numbersOutOfRange(study).empty()) << "what is to be approved is shown whole";
    command->assign(1, "ring");
    EXPECT_TRUE(core::numbersOutOfRange(study).empty());
  }
}

TEST(StrangersBounds, AreThoseThatTheirPageStates) {
  std::string page = support::contents(std::string(IRON_LEVER_SOURCE) + "/docs/security.md");
  std::replace(page.begin(), page.end(), '\n', ' ');  // lines may break anywhere
  std::string frames = std::to_string(store::kMostFrames);
  for (int at = static_cast<int>(frames.size()) - 3; at > 0; at -= 3) frames.insert(static_cast<std::size_t>(at), ",");
  EXPECT_NE(page.find(frames + " frames a pass"), std::string::npos) << frames;
}

TEST(StrangersJson, OfManyNamesIsReadByItsLengthOrNotAtAll) {
  std::string text = "{";
  for (int i = 0; i < 300'000; ++i) text += "\"name " + std::to_string(i) + "\": 1,";
  text.back() = '}';
  EXPECT_TRUE(store::parseJson(text).is_discarded());
  EXPECT_EQ(store::parseSortedJson(text).size(), 300'000U);
}

}  // namespace
