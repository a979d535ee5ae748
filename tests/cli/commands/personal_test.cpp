// What of a study tells of people and their machines: found wherever it stands, and not in the report unasked.
#include <gtest/gtest.h>

#include <fstream>
#include <sstream>

#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "core/study/schedule.h"
#include "store/study/study_file.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

using json = nlohmann::json;

class Personal : public testing::Test {
 protected:
  Personal() {
    core::Study study = support::studyOf({"/home/osei/rigs/ring", "{log}"});
    auto file = store::StudyFile::create(path_, study);
    core::Visit visit;
    const auto schedule = core::scheduleOf(study);
    for (std::size_t slot = 0; slot < schedule.size(); ++slot) {
      if (visit.planned != schedule[slot].visit || visit.id == 0)
        visit = *file->addVisit({0, schedule[slot].visit, schedule[slot].round, schedule[slot].configuration,
                                 "0a1b2c3d-0000-4000-8000-00000000abcd", 1'700'000'000'000});
      core::Pass pass;
      pass.visit_id = visit.id;
      pass.slot = slot;
      pass.started_ms = 1'700'000'060'000;
      pass.value = 60 + static_cast<double>(slot);
      pass.output = "saved to /mnt/stick/a.map";
      pass.typed = core::TypedValue{"61", 61, 1, false, {}, "T. Varga"};
      EXPECT_TRUE(file->addPass(pass, {}).ok());
    }
    EXPECT_TRUE(file->addEvent({0, 1, "M. Osei", core::ChangePredicted{3}}).ok());
    EXPECT_TRUE(file->addEvent({0, 2, "M. Osei", core::PassExcluded{1, "osei@dome.example rang"}}).ok());
    EXPECT_TRUE(file->addEvent({0, 3, "M. Osei",
                                core::CauseGiven{study.cases[0].title(), core::Grade::Conjecture, "Ada moved it"}})
                    .ok());
  }
  /// The item of that kind and text; null where there is none.
  json item(const std::string& kind, const std::string& text) {
    std::ostringstream out;
    EXPECT_TRUE(cli::personalCommand(path_, true, out).ok());
    const json said = json::parse(out.str());
    for (const json& one : said.at("personal"))
      if (one.at("kind") == kind && one.at("text") == text) return one;
    return {};
  }
  std::string page(bool names_people) {
    const std::string out = folder_ / "report.html";
    EXPECT_TRUE(cli::reportCommand(path_, {.out_path = out, .names_people = names_people}).ok());
    std::ifstream file(out);
    return {std::istreambuf_iterator<char>(file), {}};
  }
  support::TestFolder folder_;
  std::string path_ = folder_ / "one.ironlever";
};

TEST_F(Personal, IsListedWithEveryPlaceWhereItStands) {
  EXPECT_EQ(item("person", "M. Osei").at("places").size(), 3);
  EXPECT_EQ(item("person", "T. Varga").at("places").size(), 4) << "who typed";
  EXPECT_EQ(item("person", "osei").at("places"), json({"the design", "event 2, text"})) << "whose home it is";
  EXPECT_EQ(item("path", "/home/osei/rigs/ring").at("places"), json({"the design"}));
  EXPECT_EQ(item("path", "/mnt/stick/a.map").at("places").size(), 4) << "what a workload printed, unpacked";
  EXPECT_EQ(item("identifier", "osei@dome.example").at("places"), json({"event 2, text"}));
  EXPECT_EQ(item("boot", "0a1b2c3d-0000-4000-8000-00000000abcd").at("places").size(), 2);
  EXPECT_EQ(item("bench", "Dome node 3").at("in_report"), true);
  EXPECT_EQ(item("times", "2023-11-14T22:14:20Z to 2023-11-14T22:14:20Z").at("places"), json({"4 passes"}));
  EXPECT_EQ(item("written", "osei@dome.example rang").at("in_report"), true) << "a person gave it as the reason";
  EXPECT_EQ(item("written", "conjecture: Ada moved it").at("in_report"), true) << "in the report's own words";
  EXPECT_FALSE(item("printed", "saved to /mnt/stick/a.map").is_null());
}

TEST_F(Personal, IsNotInTheReportUnlessSomebodyAsksForIt) {
  for (const char* name : {"M. Osei", "T. Varga"}) EXPECT_EQ(item("person", name).at("in_report"), false) << name;
  EXPECT_EQ(item("path", "/home/osei/rigs/ring").at("in_report"), false);
  EXPECT_EQ(page(false).find("M. Osei"), std::string::npos);
  EXPECT_NE(page(false).find("Person 1 expected +3.0"), std::string::npos);
  EXPECT_NE(page(true).find("M. Osei expected +3.0"), std::string::npos);
}

TEST_F(Personal, IsSaidForReadingAndFoundWhereNothingIsReportedYet) {
  std::filesystem::remove(path_);
  { auto file = store::StudyFile::create(path_, support::studyOf({"ring", "{log}"})); }
  EXPECT_TRUE(item("bench", "Dome node 3").at("in_report").is_null());
  std::ostringstream out;
  EXPECT_TRUE(cli::personalCommand(path_, false, out).ok());
  EXPECT_NE(out.str().find("The bench is called\n  Dome node 3 (the design)\n"), std::string::npos) << out.str();
  EXPECT_NE(out.str().find("There is no report yet.\n"), std::string::npos);
}

}  // namespace
