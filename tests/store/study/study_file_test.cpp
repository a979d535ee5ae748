#include "store/study/study_file.h"

#include <gtest/gtest.h>

#include <set>

#include "core/study/reshaped.h"
#include "core/study/schedule.h"
#include "store/json/study_json.h"
#include "store/study/schema.h"
#include "store/study/study_texts.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

using core::ErrorKind;
using store::StudyFile;

class StudyFiles : public testing::Test {
 protected:
  [[nodiscard]] StudyFile make(const core::Study& study = support::studyOf({"workload", "{log}"}, 3)) {
    auto file = StudyFile::create(path_, study);
    EXPECT_TRUE(file.ok()) << file.error().sentence();
    return *std::move(file);
  }
  static core::Pass passAt(std::size_t slot, std::int64_t visit) {
    core::Pass pass;
    pass.visit_id = visit;
    pass.slot = slot;
    pass.value = 60.5;
    pass.output = "said";
    pass.started_ms = 1700000000000;
    return pass;
  }
  /// Opening must fail with `kind` and leave the file as it is, byte for byte.
  void expectRefused(ErrorKind kind) {
    const std::string before = support::contents(path_);
    const auto file = StudyFile::open(path_);
    ASSERT_FALSE(file.ok());
    EXPECT_EQ(file.error().kind, kind) << file.error().sentence();
    EXPECT_EQ(file.error().where, path_);
    EXPECT_FALSE(file.error().remedy.empty());
    EXPECT_EQ(support::contents(path_), before);
  }

  support::TestFolder folder_;
  std::string path_ = folder_ / "study.ironlever";
};

TEST_F(StudyFiles, GiveBackWhatWasFiled) {
  const std::vector<double> frame_ms{16.5, 17.25, 0.1 + 0.2};
  const double kFps = 3000 / (16.5 + 17.25 + 0.1 + 0.2);
  {
    StudyFile file = make();
    const auto visit = file.addVisit({0, 2, 1, core::ConfigurationId::Changed, "boot-a", 42});
    ASSERT_TRUE(visit.ok());
    core::Pass pass = passAt(4, visit->id);
    pass.value = kFps;
    ASSERT_TRUE(file.addPass(pass, frame_ms).ok());
    ASSERT_TRUE(file.addEvent({0, 7, "M. Osei", core::DoubtAccepted{"drift", "the room is cooled"}}).ok());
  }
  auto file = StudyFile::open(path_);
  ASSERT_TRUE(file.ok());
  const auto recorded = file->recorded();
  ASSERT_TRUE(recorded.ok());
  EXPECT_EQ(recorded->visits.at(0).boot_id, "boot-a");
  EXPECT_EQ(recorded->visits.at(0).configuration, core::ConfigurationId::Changed);
  EXPECT_EQ(recorded->passes.at(0).value, kFps);
  EXPECT_EQ(recorded->passes.at(0).frames->frames, 3U);
  EXPECT_EQ(recorded->events.at(0).person, "M. Osei");
  EXPECT_EQ(*file->frames(recorded->passes.at(0).id), frame_ms);  // bit for bit
  EXPECT_EQ(file->output(recorded->passes.at(0).id)->output, "said");
}

TEST_F(StudyFiles, GiveBackWhatWasSampledAndHowThePassWent) {
  core::Samples samples;
  samples.at_s = {1, 2};
  samples.channels = {{"chip temp1", "°C", core::ChannelRole::Temperature, "hwmon0", 95, {61.5, 0.1 + 0.2}},
                      {"throttle", "times", core::ChannelRole::Throttle, "processor", {}, {4, 6}}};
  samples.by_frame = {{"wait", "ms", core::ChannelRole::Frame, "frames", {}, {0.1, 0.1 + 0.2}}};
  StudyFile file = make();
  core::Pass pass = passAt(0, file.addVisit({})->id);
  pass.others_busy_percent = 12.25;
  pass.settings = "quality=high\n";
  pass.value = 2000.0 / 33;
  const auto filed = file.addPass(pass, std::vector<double>{16, 17}, samples);
  ASSERT_TRUE(filed.ok());
  EXPECT_EQ(*file.samples(filed->id), samples);
  const core::Pass back = file.recorded()->passes.at(0);
  EXPECT_EQ(back.others_busy_percent, 12.25);
  EXPECT_EQ(back.settings, "quality=high\n");
  EXPECT_EQ(back.samples, filed->samples);
  EXPECT_EQ(back.throttled, 2);
  EXPECT_EQ(file.samples(99).error().kind, ErrorKind::Missing);
  auto database = store::Database::open(path_, store::Database::Mode::OpenExisting);
  ASSERT_TRUE(database->execute("UPDATE frame_channel SET unit = 's'").ok());
  EXPECT_EQ(file.samples(filed->id).error().kind, ErrorKind::DamagedFile);
}

TEST_F(StudyFiles, TellEveryTextThatTheyHold) {
  StudyFile file = make();
  const auto visit = file.addVisit({});
  core::Pass pass = passAt(0, visit->id);
  pass.settings = "quality=high";
  pass.further = {{{}, "nothing matches"}};
  pass.conditions = {"warned of low memory"};
  pass.companion_output = "recording";
  core::Samples samples{{1}, {{"chip", "°C", core::ChannelRole::Temperature, "hwmon0", 95, {61}}}, {}};
  samples.by_frame = {{"wait", "ms", core::ChannelRole::Frame, "frames", {}, {0.1}}};
  ASSERT_TRUE(file.addPass(pass, std::vector<double>{16}, samples).ok());
  ASSERT_TRUE(file.attach(1, {"screen.png", "picture"}).ok());
  ASSERT_TRUE(file.addVisitPicture({visit->id, "00ff", "menu.png", 7, "M. Osei"}, "picture").ok());
  ASSERT_TRUE(file.addEvent({0, 7, "M. Osei", core::NoteMade{"", "the room is cooled"}}).ok());
  ASSERT_TRUE(file.addCapture({visit->id, core::CaptureMoment::Start, {}}).ok());
  ASSERT_TRUE(file.addMeasurement({visit->id, core::CaptureMoment::Start, {{"read", {{50}}}}, ""}).ok());
  std::set<std::string> expected;  // from the file itself: a column that is new in the schema is in it
  auto database = store::Database::open(path_, store::Database::Mode::OpenExisting);
  ASSERT_TRUE(store::forEachRow(*database,
                                "SELECT t.name || '.' || c.name FROM sqlite_schema t JOIN pragma_table_info(t.name) c "
                                "WHERE t.type = 'table' AND c.type IN ('TEXT', 'BLOB') AND c.name NOT IN ('frames', "
                                "'frame_values', 'bytes', 'identity')",
                                [&](const store::Statement& row) -> core::Status {
                                  expected.insert(row.text(0));
                                  return core::Done{};
                                })
                  .ok());
  EXPECT_GT(expected.size(), 15U);
  std::set<std::string> told;
  std::string output;
  ASSERT_TRUE(store::forEachText(file, [&](const StudyFile::Text& text) {
                told.insert(text.table + '.' + text.column);
                if (text.table == "pass" && text.column == "output") output = text.text;
              }).ok());
  EXPECT_EQ(told, expected);
  EXPECT_EQ(output, "said") << "unpacked";
}

TEST_F(StudyFiles, ChangeAPlanOnlyAtItsEnd) {
  StudyFile file = make();
  core::Study more = file.study();
  more.plan.passes_per_level += 1;  // moves what comes after
  EXPECT_EQ(file.changePlan(more, {}).error().kind, ErrorKind::NotAllowed);
  more.plan = file.study().plan;
  more.notice_threshold_percent = 5;
  ASSERT_TRUE(file.changePlan(more, {0, 1, "M. Osei", core::PlanChanged{"why"}}).ok());
  auto again = StudyFile::open(path_);
  EXPECT_EQ(again->study(), more);
  EXPECT_EQ(std::get<core::PlanChanged>(again->recorded()->events.at(0).act).what, "why");
}

TEST_F(StudyFiles, AreCopiedWholeOverAnEarlierCopy) {
  StudyFile file = make();
  const std::string copy = folder_ / "copy.ironlever";
  ASSERT_TRUE(file.copyTo(copy).ok());
  ASSERT_TRUE(file.addPass(passAt(0, file.addVisit({})->id), {}).ok());
  ASSERT_TRUE(file.copyTo(copy).ok());
  EXPECT_EQ(StudyFile::open(copy)->recorded()->passes.size(), 1U);
  EXPECT_FALSE(std::filesystem::exists(copy + ".new"));
  EXPECT_FALSE(file.copyTo(folder_ / "no/such/folder/x").ok());
}

TEST_F(StudyFiles, FileAnAttemptOnlyOnce) {
  StudyFile file = make();
  const auto visit = file.addVisit({0, 1, 1, core::ConfigurationId::Baseline, "", 0});
  ASSERT_TRUE(file.addPass(passAt(0, visit->id), {}).ok());
  EXPECT_FALSE(file.addPass(passAt(0, visit->id), {}).ok());
  EXPECT_EQ(file.recorded()->passes.size(), 1U);
}

TEST_F(StudyFiles, LockTheQuestionWithTheFirstPass) {
  StudyFile file = make();
  core::Study other = file.study();
  other.notice_threshold_percent = 1;
  ASSERT_TRUE(file.replaceStudy(other).ok());
  const auto visit = file.addVisit({0, 1, 1, core::ConfigurationId::Baseline, "", 0});
  ASSERT_TRUE(file.addPass(passAt(0, visit->id), {}).ok());
  other.notice_threshold_percent = 0.1;
  EXPECT_EQ(file.replaceStudy(other).error().kind, ErrorKind::NotAllowed);
  EXPECT_EQ(StudyFile::open(path_)->study().notice_threshold_percent, 1);
}

// Else the file would be refused as damaged when it is opened next.
TEST_F(StudyFiles, TakeNoQuestionInWhichWhatIsOnRecordHasNoPlace) {
  const core::Study ladder = support::ladderOf();
  StudyFile file = make(ladder);
  const std::size_t last = core::scheduleOf(ladder).size() - 1;
  ASSERT_TRUE(file.addEvent({0, 1, "M. Osei", core::Skipped{last, "the save is broken"}}).ok());
  core::Study shorter = ladder;
  shorter.plan.passes_per_visit = 1;
  EXPECT_EQ(file.replaceStudy(shorter).error().kind, ErrorKind::NotAllowed);
  EXPECT_EQ(file.study(), ladder);
  core::Study longer = ladder;
  longer.plan.passes_per_visit = 3;
  ASSERT_TRUE(file.replaceStudy(longer).ok()) << "where it has its place the question may change";
  ASSERT_TRUE(file.addVisit({0, 1, 1, core::configurationAt(3), "boot-1", 1}).ok());
  core::Study pair = core::reshaped(longer, core::Shape::Pair);
  pair.plan.passes_per_visit = 50;
  EXPECT_EQ(file.replaceStudy(pair).error().kind, ErrorKind::NotAllowed) << "the pair has no such level";
  const auto again = StudyFile::open(path_);
  ASSERT_TRUE(again.ok()) << again.error().sentence();
  EXPECT_EQ(again->study(), longer);
}

TEST_F(StudyFiles, AreNeverOverwritten) {
  (void)make();
  EXPECT_EQ(StudyFile::create(path_, {}).error().kind, ErrorKind::NotAllowed);
}

TEST_F(StudyFiles, OfANewerProgramAreRefusedUntouched) {
  (void)make();
  {
    auto database = store::Database::open(path_, store::Database::Mode::OpenExisting);
    ASSERT_TRUE(database->execute("PRAGMA user_version = 99").ok());
  }
  expectRefused(ErrorKind::NewerFile);
}

TEST_F(StudyFiles, OfAnotherProgramAreRefusedUntouched) {
  folder_.write("study.ironlever", "frame_ms\n16.6\n");
  expectRefused(ErrorKind::ForeignFile);
  std::filesystem::remove(path_);
  {
    auto database = store::Database::open(path_, store::Database::Mode::CreateNew);
    ASSERT_TRUE(database->execute("CREATE TABLE other (x)").ok());
  }
  expectRefused(ErrorKind::ForeignFile);
}

TEST_F(StudyFiles, CutShortAnywhereAreRefusedUntouched) {
  (void)make();
  const std::string whole = support::contents(path_);
  for (const std::size_t size : {std::size_t{20}, std::size_t{99}, std::size_t{100}, std::size_t{4096},
                                 whole.size() - 100, whole.size() - 4096}) {
    folder_.write("study.ironlever", whole.substr(0, size));
    expectRefused(ErrorKind::DamagedFile);
  }
}

// What is written into a file that has no name any more is lost: nothing is, and it is said.
TEST_F(StudyFiles, DeletedOrReplacedWhileOpenTakeNothing) {
  StudyFile file = make();
  const auto visit = file.addVisit({0, 1, 1, core::ConfigurationId::Baseline, "", 0});
  std::filesystem::rename(path_, folder_ / "elsewhere");
  EXPECT_EQ(file.addPass(passAt(0, visit->id), {}).error().kind, ErrorKind::Missing);
  ASSERT_TRUE(StudyFile::create(path_, file.study()).ok());  // another of the same name
  EXPECT_EQ(file.addPass(passAt(0, visit->id), {}).error().kind, ErrorKind::Missing);
  EXPECT_TRUE(StudyFile::open(path_)->recorded()->passes.empty());
  std::filesystem::rename(folder_ / "elsewhere", path_);
  EXPECT_TRUE(file.addPass(passAt(0, visit->id), {}).ok());
}

// Copied over, a file keeps its name and its place on the disk.
TEST_F(StudyFiles, CopiedOverWhileOpenTakeNothing) {
  StudyFile file = make();
  const auto visit = file.addVisit({0, 1, 1, core::ConfigurationId::Baseline, "", 7});
  {
    auto other = StudyFile::create(folder_ / "other.ironlever", file.study());
    ASSERT_TRUE(other->addVisit({0, 1, 1, core::ConfigurationId::Baseline, "", 8}).ok());
  }
  folder_.write("study.ironlever", support::contents(folder_ / "other.ironlever"));
  EXPECT_FALSE(file.addPass(passAt(0, visit->id), {}).ok());
  EXPECT_TRUE(StudyFile::open(path_)->recorded()->passes.empty());
}

TEST_F(StudyFiles, MissingAreSaidToBeMissing) { EXPECT_EQ(StudyFile::open(path_).error().kind, ErrorKind::Missing); }

TEST_F(StudyFiles, OnAFullDiskKeepWhatTheyHave) {
  (void)make();
  auto database = store::Database::open(path_, store::Database::Mode::OpenExisting);
  auto pages = database->prepare("PRAGMA page_count");
  ASSERT_TRUE(*pages->step());
  const std::string limit = std::to_string(pages->integer(0) + 1);
  ASSERT_TRUE(database->execute("PRAGMA max_page_count = " + limit).ok());  // SQLite's own full disk
  const auto filled = database->inTransaction([&]() -> core::Status {
    auto statement =
        database->prepare("INSERT INTO event (at_ms, person, kind, subject, text) VALUES (0, '', '', '', ?1)");
    statement->bind(1, store::Blob{std::string(100000, 'x')});
    const auto row = statement->step();
    return row ? core::Status(core::Done{}) : core::Status(row.error());
  });
  EXPECT_EQ(filled.error().kind, ErrorKind::DiskFull);
  EXPECT_TRUE(StudyFile::open(path_)->recorded()->events.empty());
}

TEST(StudyJson, ComesBackWithoutLoss) {
  core::Study study = support::timedStudyOf({"workload", "--name", "with blank", "ä"}, 7);
  study.variable().levels[1].environment = {{"B", "2"}, {"A", "1 x"}};
  study.variable().levels[1].set_command = {"set", "it"};
  study.variable().levels[0].prefix = {"taskset", "-c", "0"};
  study.plan = {7, 3, core::Order::ThereAndBack, 12.5};
  study.notice_threshold_percent = 0.1;
  study.variable().kind = "other";
  study.variable().device = "0000:03:00.0";
  study.variable().fields = {"kernel/swappiness", "cpu/*"};
  study.machine = "bench/machine";
  study.held = {"dmi/memory/*/configured_voltage"};
  study.released = {{"cpu/boost", "the board has no such switch"}};
  study.is_this_machine = false;
  study.variable().levels[0].reads = core::ExpectedReading{"cpu/cores", "8"};
  study.stability_command = {"test", "it"};
  study.school = core::School::WithHeadroom;
  study.plan.settle_to_c = 45;
  study.plan.most_settle_s = 300;
  study.plan.quiet_wait_s = 20;
  study.plan.extension_rounds = 2;
  study.plan.looks = {4, 8};
  core::Case& a_case = study.cases[0];
  a_case.is_synthetic = a_case.is_control = a_case.is_played = true;
  a_case.feature = core::FeatureActs::No;
  a_case.route = "once around";
  a_case.played_s = 42;
  a_case.settings_file = "ring.conf";
  a_case.declared = {{"settings", "high"}, {"frame_cap", "60"}};
  const auto back = store::studyFromJson(store::studyToJson(study), "test");
  ASSERT_TRUE(back.ok()) << back.error().sentence();
  EXPECT_EQ(*back, study);
}

TEST(StudyJson, TakesANumberForWhatACaptureMustRead) {
  std::string text = store::studyToJson(support::studyOf({"workload", "{log}"}));
  const std::string name = "\"name\": \"4800 MT/s\"";
  text.replace(text.find(name), name.size(),
               name + R"(, "reads": {"fact": "dmi/memory/*/configured_speed", "value": 4800})");
  EXPECT_EQ(store::studyFromJson(text, "design.json")->variable().levels[0].reads->value, "4800");
  text.replace(text.find("\"fact\""), 6, "\"fakt\"");
  EXPECT_EQ(store::studyFromJson(text, "design.json").error().where, "design.json, variables[0].levels[0].reads.fakt");
}

TEST(StudyJson, NamesThePlaceOfEveryMistake) {
  const std::string good = store::studyToJson(support::studyOf({"workload", "{log}"}));
  const auto expect = [&](const std::string& from, const std::string& to, ErrorKind kind, const std::string& place) {
    std::string text = good;
    ASSERT_NE(text.find(from), std::string::npos) << from;
    const auto study = store::studyFromJson(text.replace(text.find(from), from.size(), to), "design.json");
    ASSERT_FALSE(study.ok()) << to;
    EXPECT_EQ(study.error().kind, kind) << study.error().sentence();
    EXPECT_EQ(study.error().where, "design.json, " + place);
  };
  expect("\"name\": \"memory speed\",", "", ErrorKind::Missing, "variables[0].name");
  expect("\"variables\"", "\"varables\"", ErrorKind::Malformed, "varables");
  expect("\"shape\": \"pair\"", "\"shape\": \"paar\"", ErrorKind::OutOfRange, "shape");
  expect("\"shape\": \"pair\"", "\"shape\": \"chain\"", ErrorKind::OutOfRange, "shape");
  expect("\"baseline\": \"4800 MT/s\"", "\"baseline\": \"5000 MT/s\"", ErrorKind::OutOfRange, "variables[0].baseline");
  expect("\"blocked\"", "\"random\"", ErrorKind::OutOfRange, "plan.order");
  expect("\"passes_per_level\": 2", "\"passes_per_level\": 2.5", ErrorKind::Malformed, "plan.passes_per_level");
  expect("[\n        \"workload\",\n        \"{log}\"\n      ]", "\"workload {log}\"", ErrorKind::Malformed,
         "cases[0].command");
  EXPECT_EQ(store::studyFromJson("1E311", "design.json").error().kind, ErrorKind::OutOfRange);
  expect("\"bench\": \"Dome node 3\",\n", "\"bench\": \"Dome node 3\"\n", ErrorKind::Malformed, "line 3");
}

TEST(StudyJson, OfEveryShapeComesBackAsItWas) {
  core::Study listed = support::crossedOf();
  listed.configurations = {{"", {0, 0}}, {"both", {1, 1}}, {"", {0, 1}}};
  listed.plan.drawn = core::drawRounds(3, 5, 1);
  listed.variables[1].is_group = true;
  listed.variables[1].flip_minutes = 45.5;
  listed.plan.grouped_by = listed.variables[1].name;
  listed.plan.planned_for = core::PlannedFor::Interaction;
  core::Study downwards = support::ladderOf();
  downwards.variable().baseline = 2;
  for (const core::Study& study :
       {support::studyOf({"true"}), support::ladderOf(), support::crossedOf(), support::chainOf(), listed, downwards}) {
    const auto again = store::studyFromJson(store::studyToJson(study), "design.json");
    ASSERT_TRUE(again) << again.error().sentence();
    EXPECT_EQ(*again, study);
  }
}

TEST(StudyJson, ReadsALadderAsOtherProgramsWriteIt) {
  const auto study = store::studyFromJson(R"({
    "bench": "Dome node 3", "shape": "ladder",
    "variables": [{"name": "graphics link", "kind": "pcie_generation", "resource_unit": "GB/s",
                   "levels": [{"name": "Gen 1", "resource": 3.94}, {"name": "Gen 2"}, {"name": "Gen 3"}],
                   "baseline": "Gen 2"}],
    "cases": [{"workload": "Ring pass", "command": ["true", "{log}"]}],
    "plan": {"order": "rounds", "rounds": 5, "passes_per_visit": 2}})",
                                          "design.json");
  ASSERT_TRUE(study) << study.error().sentence();
  EXPECT_EQ(study->configurationCount(), 3U);
  EXPECT_EQ(study->nameOf(study->baseline()), "Gen 2");
  EXPECT_EQ(study->plan.drawn.size(), 5U);
  EXPECT_TRUE(core::problemsOf(*study).empty());
}

}  // namespace
