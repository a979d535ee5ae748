// What a person does at a visit, by the real programs: points ticked, pictures kept, the sheet on paper, bench papers.
#include <gtest/gtest.h>

#include <algorithm>
#include <filesystem>

#include <nlohmann/json.hpp>

#include "store/study/study_file.h"
#include "support/programs.h"

namespace {

using nlohmann::json;
using support::Outcome;

class Visits : public support::ProgramsTest {
 protected:
  void SetUp() override {
    const json design{
        {"bench", "Dome node 3"},
        {"variable", "memory speed"},
        {"kind", "memory_speed"},
        {"levels",
         {{{"name", "slow"}, {"checklist", {"screwdriver 2", "photograph the seat"}}},
          {{"name", "fast"}, {"checklist", {"photograph the menu"}}}}},
        {"cases",
         {{{"workload", "Ring pass"},
           {"command", json::array()},
           {"result", "by_hand"},
           {"metric", {{"name", "score"}, {"unit", "points"}, {"direction", "higher"}}}}}},
        {"plan", {{"order", "there_and_back"}, {"passes_per_level", 2}, {"warm_ups", 0}, {"is_sealed", false}}}};
    folder_.write("design.json", design.dump());
    const Outcome made = call({"new", "s", "--design", "design.json"});
    ASSERT_EQ(made.code, 0) << made.err;
    folder_.write("menu.png", kPng);
  }
  [[nodiscard]] Outcome call(std::initializer_list<const char*> words) const {
    QStringList arguments;
    for (const char* word : words) arguments << QString::fromUtf8(word);
    return cli(arguments);
  }
  static bool holds(const std::string& text, const std::string& part) { return text.find(part) != std::string::npos; }
  // The first bytes of a picture are what tells it.
  inline static const std::string kPng = std::string("\x89PNG\r\n\x1a\n", 8) + "and the rest of a small picture";
};

TEST_F(Visits, HaveAChecklistThatIsTickedAndStaysOnRecord) {
  const Outcome first = call({"run", "s"});
  EXPECT_TRUE(holds(first.out, "[ ] photograph the seat")) << first.out << first.err;
  EXPECT_TRUE(holds(call({"tick", "s", "polish the case"}).err, "Its points are: screwdriver 2; photograph the seat"));
  EXPECT_EQ(call({"tick", "s", "screwdriver 2"}).code, 0);
  EXPECT_TRUE(holds(call({"status", "s"}).out, "[x] screwdriver 2\n  [ ] photograph the seat"));
  EXPECT_EQ(call({"tick", "s", "screwdriver 2", "--undo"}).code, 0);
  EXPECT_EQ(
      json::parse(call({"status", "s", "--json"}).out)["checklist"],
      json::parse(R"([{"point": "screwdriver 2", "done": false}, {"point": "photograph the seat", "done": false}])"));
  EXPECT_EQ(call({"tick", "s", "screwdriver 2"}).code, 0);
  EXPECT_EQ(call({"type", "s", "100"}).code, 0);
  const json findings = json::parse(call({"findings", "s", "--json"}).out);
  const auto open = std::find_if(findings["doubts"].begin(), findings["doubts"].end(),
                                 [](const json& one) { return one["id"] == "not_ticked"; });
  ASSERT_NE(open, findings["doubts"].end());
  EXPECT_EQ((*open)["sentence"], "Not ticked: photograph the seat before visit 1");
}

TEST_F(Visits, KeepPicturesOnceAndShowThemWhereSomebodyChoosesSo) {
  EXPECT_TRUE(holds(call({"picture", "s", "1", "menu.png"}).err, "not begun")) << "there is no visit yet";
  EXPECT_EQ(call({"type", "s", "100"}).code, 0);
  EXPECT_TRUE(holds(call({"picture", "s", "1", "design.json"}).err, "PNG or JPEG"));
  EXPECT_TRUE(holds(call({"picture", "s", "1", "absent.png"}).err, "absent.png"));
  folder_.write("huge.png", kPng + std::string(30 << 20, 'x'));
  EXPECT_EQ(call({"picture", "s", "1", "huge.png"}).code, 1);
  EXPECT_EQ(call({"picture", "s", "none", "menu.png"}).code, 1);
  ASSERT_EQ(call({"picture", "s", "1", "menu.png"}).code, 0);
  ASSERT_EQ(call({"type", "s", "110"}).code, 0);
  folder_.write("again.png", kPng);
  ASSERT_EQ(call({"picture", "s", "2", "again.png"}).code, 0);
  const json kept = json::parse(call({"pictures", "s", "--json"}).out);
  ASSERT_EQ(kept.size(), 2U);
  EXPECT_EQ(kept[0]["sha256"], kept[1]["sha256"]);
  EXPECT_EQ(kept[1]["visit"], 2);
  auto file = store::StudyFile::open(folder_ / "s");
  EXPECT_EQ(*file->pictureBytes(kept[0]["sha256"]), kPng);
  std::filesystem::create_directory(folder_ / "out");
  EXPECT_EQ(call({"pictures", "s", "--to", "out"}).code, 0);
  EXPECT_TRUE(std::filesystem::exists(folder_ / "out/visit-1-1-menu.png"));
  EXPECT_EQ(call({"pictures", "s", "--to", "out"}).code, 1) << "what is there is left alone";
  for (const char* result : {"109", "101"}) ASSERT_EQ(call({"type", "s", result}).code, 0);
  ASSERT_EQ(call({"report", "s", "--out", "plain.html"}).code, 0);
  ASSERT_EQ(call({"report", "s", "--out", "shown.html", "--pictures"}).code, 0);
  EXPECT_FALSE(holds(support::contents(folder_ / "plain.html"), "data:image/png"));
  EXPECT_TRUE(holds(support::contents(folder_ / "shown.html"), "data:image/png;base64,iVBORw0KGgph"));
  EXPECT_TRUE(holds(support::contents(folder_ / "shown.html"), "Visit 2, at fast: again.png"));
}

// What is noticed beside what is measured reaches the readers of the page, and its picture where somebody wants it.
TEST_F(Visits, TellWhatElseWasNoticed) {
  EXPECT_TRUE(holds(call({"note", "s", " ", "--observed"}).err, "says nothing"));
  EXPECT_TRUE(holds(call({"note", "s", "a pin", "--picture", "design.json"}).err, "PNG or JPEG"));
  ASSERT_EQ(call({"note", "s", "only for the logbook"}).code, 0);
  ASSERT_EQ(call({"note", "s", "the <front> port does not charge", "--observed"}).code, 0);
  ASSERT_EQ(call({"note", "s", "a bent pin", "--picture", "menu.png"}).code, 0);
  for (const char* result : {"100", "110", "109", "101"}) ASSERT_EQ(call({"type", "s", result}).code, 0);
  ASSERT_EQ(call({"report", "s", "--out", "plain.html"}).code, 0);
  ASSERT_EQ(call({"report", "s", "--out", "shown.html", "--pictures"}).code, 0);
  ASSERT_EQ(call({"report", "s", "--out", "without.html", "--parts", "results,doubts"}).code, 0);
  const std::string plain = support::contents(folder_ / "plain.html");
  EXPECT_TRUE(holds(plain, "<li>the &lt;front&gt; port does not charge</li>"));
  EXPECT_TRUE(holds(plain, "<li>a bent pin</li>"));
  EXPECT_FALSE(holds(plain, "only for the logbook"));
  EXPECT_FALSE(holds(plain, "data:image/png"));
  EXPECT_TRUE(holds(support::contents(folder_ / "shown.html"), "Noticed: a bent pin"));
  EXPECT_FALSE(holds(support::contents(folder_ / "without.html"), "a bent pin"));
  const json kept = json::parse(call({"pictures", "s", "--json"}).out);
  ASSERT_EQ(kept.size(), 1U);
  EXPECT_TRUE(kept[0]["visit"].is_null());
  std::filesystem::create_directory(folder_ / "out");
  EXPECT_EQ(call({"pictures", "s", "--to", "out"}).code, 0);
  EXPECT_TRUE(std::filesystem::exists(folder_ / "out/noticed-1.png"));
  ASSERT_EQ(call({"bundle", "s", "--out", "without.zip"}).code, 0);
  ASSERT_EQ(call({"bundle", "s", "--out", "with.zip", "--keep", "pictures"}).code, 0);
  for (const char* zip : {"without.zip", "with.zip"}) {
    const Outcome check = call({"verify", zip, "--json"});
    EXPECT_TRUE(json::parse(check.out).at("ok").get<bool>()) << zip << check.out;
  }
}

TEST_F(Visits, AreToldToBePossibleOrNotByAPerson) {
  EXPECT_EQ(call({"type", "s", " ", "--does-not-run"}).code, 1) << "without a reason";
  const Outcome filed = call({"type", "s", "the picture stays black", "--does-not-run"});
  EXPECT_TRUE(holds(filed.out, "Filed that it does not run as visit 1")) << filed.out << filed.err;
  for (const char* result : {"110", "111"})
    ASSERT_EQ(call({"type", "s", result, "--condition", "after a restart"}).code, 0);
  ASSERT_EQ(call({"type", "s", "no signal", "--does-not-run"}).code, 0);
  const json findings = json::parse(call({"findings", "s", "--json"}).out);
  ASSERT_EQ(findings["possible"].size(), 2U) << findings["possible"];
  EXPECT_EQ(findings["possible"][0]["answer"], "does_not_run");
  EXPECT_TRUE(holds(findings["possible"][0]["reason"], "the picture stays black"));
  EXPECT_EQ(findings["possible"][1]["answer"], "runs_with_conditions");
  ASSERT_EQ(findings["possible"][1]["conditions"].size(), 1U);
  EXPECT_EQ(findings["possible"][1]["conditions"][0]["name"], "after a restart");
  EXPECT_EQ(findings["failed_passes"], 0);
  EXPECT_TRUE(findings["claim"].get<std::string>().starts_with("Ring pass runs at fast only.")) << findings["claim"];
}

TEST_F(Visits, ArePrintedForABenchWithoutAScreen) {
  ASSERT_EQ(call({"print-sheet", "s", "--out", "sheet.html"}).code, 0);
  const std::string page = support::contents(folder_ / "sheet.html");
  for (const char* part : {"Visit 4, round 2: slow", "<li>photograph the seat</li>", "Caution: ", "Ring pass", "points",
                           "manual, local rules"})
    EXPECT_TRUE(holds(page, part)) << part;
  EXPECT_EQ(call({"print-sheet", "s", "--out", "s"}).code, 1) << "never onto the study";
}

TEST_F(Visits, OfABenchHavePapersWithADay) {
  const auto paper = [&](std::initializer_list<const char*> more) {
    QStringList arguments{QStringLiteral("benches"), QStringLiteral("Dome node 3")};
    for (const char* word : more) arguments << QString::fromUtf8(word);
    return cli(arguments);
  };
  EXPECT_EQ(paper({"--add-paper", "lent", "--text", "memory kit 2, from M. Osei", "--until", "2020-01-15"}).code, 0);
  EXPECT_EQ(paper({"--add-paper", "lowest_firmware", "--text", "D2-1.14 for 6000 MT/s"}).code, 0);
  EXPECT_EQ(paper({"--add-paper", "recipe", "--text", "soup"}).code, 2);
  EXPECT_EQ(paper({"--add-paper", "lent", "--text", "x", "--until", "soon"}).code, 2);
  const Outcome shown = paper({"--papers"});
  EXPECT_TRUE(holds(shown.out, "1. lent: memory kit 2, from M. Osei, until 2020-01-15, overdue")) << shown.out;
  EXPECT_EQ(paper({"--remove-paper", "7"}).code, 1);
  EXPECT_EQ(paper({"--remove-paper", "1"}).code, 0);
  const json left = json::parse(paper({"--papers", "--json"}).out);
  ASSERT_EQ(left.size(), 1U);
  EXPECT_EQ(left[0]["kind"], "lowest_firmware");
  EXPECT_TRUE(left[0]["until"].is_null());
}

}  // namespace
