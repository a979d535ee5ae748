#include <gtest/gtest.h>

#include <filesystem>

#include "store/json/capture_json.h"
#include "store/study/schema.h"
#include "store/study/study_file.h"
#include "support/test_folder.h"

namespace {

class OldStudyFiles : public testing::Test {
 protected:
  /// A copy of a file that an earlier version wrote.
  std::string copyOf(const char* name) {
    const std::string path = folder_ / name;
    std::filesystem::copy_file(std::filesystem::path(IRON_LEVER_SOURCE) / "tests" / "data" / name, path);
    return path;
  }
  support::TestFolder folder_;
};

TEST_F(OldStudyFiles, OfSchema1KeepEverythingAndTakeCaptures) {
  const std::string path = copyOf("schema-1.ironlever");
  {
    auto file = store::StudyFile::open(path);
    ASSERT_TRUE(file.ok()) << file.error().sentence();
    auto recorded = file->recorded();
    ASSERT_TRUE(recorded.ok());
    EXPECT_EQ(recorded->passes.size(), 4U);
    EXPECT_EQ(recorded->passes[0].value, 90.5);
    EXPECT_TRUE(recorded->captures.empty());
    core::Capture capture;
    core::Fact fact;
    fact.name = "cpu/online";
    fact.value = "0-3";
    capture.put(fact);
    ASSERT_TRUE(file->addCapture({recorded->visits[0].id, core::CaptureMoment::Start, capture}).ok());
    EXPECT_FALSE(
        file->addCapture({recorded->visits[0].id, core::CaptureMoment::Start, capture}).ok());  // one for each moment
  }
  auto again = store::StudyFile::open(path);
  ASSERT_TRUE(again.ok());
  ASSERT_EQ(again->recorded()->captures.size(), 1U);
  EXPECT_EQ(again->recorded()->captures[0].capture.text("cpu/online"), "0-3");
}

// Copies of an old study are one study, also where one went on meanwhile; a row that was damaged is not made good.
TEST_F(OldStudyFiles, SayWhichStudyTheyAreInEveryCopy) {
  const std::string path = copyOf("schema-1.ironlever");
  const std::string copy = folder_ / "copy.ironlever";
  std::filesystem::copy_file(path, copy);
  std::string identity;
  {
    auto file = store::StudyFile::open(path);
    ASSERT_TRUE(file.ok()) << file.error().sentence();
    identity = file->identity();
    EXPECT_GE(identity.size(), 16U);
    auto recorded = file->recorded();
    ASSERT_TRUE(recorded.ok());
    ASSERT_TRUE(file->addVisit(recorded->visits.back()).ok());
  }
  auto other = store::StudyFile::open(copy);
  ASSERT_TRUE(other.ok()) << other.error().sentence();
  EXPECT_EQ(other->identity(), identity);
  EXPECT_EQ(store::StudyFile::open(path)->identity(), identity);
}

TEST(CaptureJson, ComesBackWithoutLoss) {
  core::Capture capture;
  capture.taken_ms = 1764000000000;
  capture.boot_id = "boot-1";
  capture.is_privileged = true;
  core::Fact read{"dmi/memory/DIMM_A2/configured_speed",
                  core::FactKind::Configuration,
                  core::FactStatus::Read,
                  "6000",
                  6000.0,
                  "MT/s",
                  "/sys/x",
                  "",
                  ""};
  core::Fact denied{"memory/installed",
                    core::FactKind::Configuration,
                    core::FactStatus::Denied,
                    "",
                    std::nullopt,
                    "",
                    "/sys/y",
                    "needs root",
                    ""};
  core::Fact warm{"hwmon/a/b",   core::FactKind::Volatile, core::FactStatus::Read, "61", 61.0, "°C", "/sys/z", "",
                  "temperatures"};
  for (const core::Fact& fact : {read, denied, warm}) capture.put(fact);
  const auto back = store::captureFromJson(store::captureToJson(capture), "test");
  ASSERT_TRUE(back.ok()) << back.error().sentence();
  EXPECT_EQ(store::captureToJson(*back), store::captureToJson(capture));
  EXPECT_EQ(back->find("memory/installed")->why, "needs root");
  EXPECT_EQ(back->find("hwmon/a/b")->group, "temperatures");
}

TEST(CaptureJson, RefusesWhatIsNoCapture) {
  for (
      const char* bad :
      {"", "{}", "[1]", R"({"format": "iron-lever-capture", "version": 2})",
       R"({"format": "iron-lever-capture", "version": 1, "taken_ms": 1, "boot_id": "b", "readings": {"x": {"kind": "odd"}}})"}) {
    const auto refused = store::captureFromJson(bad, "A.json");
    ASSERT_FALSE(refused.ok()) << bad;
    EXPECT_EQ(refused.error().kind, core::ErrorKind::Malformed);
    EXPECT_EQ(refused.error().where, "A.json");
  }
}

TEST(Schema, IsTheOneThatItsPageNames) {
  const std::string page = support::contents(IRON_LEVER_SOURCE "/docs/study-format.md");
  const std::string words = "is the schema number, " + std::to_string(store::currentSchema()) + " now";
  EXPECT_NE(page.find(words), std::string::npos) << words;
}

}  // namespace
