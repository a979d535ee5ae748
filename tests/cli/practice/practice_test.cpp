// Practice by the real programs: begun, run, signed once, seen afterwards; and the truth nowhere before.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <QFile>
#include <cmath>
#include <filesystem>
#include <regex>

#include <nlohmann/json.hpp>

#include "support/programs.h"

namespace {

using nlohmann::json;
using support::Outcome;
using ::testing::HasSubstr;
using ::testing::Not;

class Practice : public support::ProgramsTest {
 protected:
  Outcome cli(const std::vector<std::string>& words) const {
    QStringList arguments;
    for (const std::string& word : words) arguments << QString::fromStdString(word);
    return ProgramsTest::cli(arguments);
  }
  json begin(const std::string& id, const std::vector<std::string>& plan = {}) {
    std::vector<std::string> words{"practice", "start", id, id, "--json"};
    words.insert(words.end(), plan.begin(), plan.end());
    const Outcome begun = cli(words);
    EXPECT_EQ(begun.code, 0) << begun.err;
    return json::parse(begun.out, nullptr, false);
  }
  /// Runs a sheet to its end; whoever sets levels by hand does it as the program says, or leaves it and measures all
  /// the same.
  void runSheet(const json& about, const std::string& study, bool is_careless = false) {
    for (int i = 0; i < 60; ++i) {
      const Outcome ran = cli({"run", study, "--approve", "--quiet"});
      if (ran.code == 0) return;
      ASSERT_EQ(ran.code, 4) << ran.err << ran.out;
      std::smatch level;
      const bool is_contradicted = std::regex_search(ran.out, level, std::regex("Set \"?([^\"]+)\"? and run the same"));
      if (is_contradicted && is_careless) {
        EXPECT_EQ(cli({"measure-anyway", study, "the menu says so"}).code, 0);
        continue;
      }
      ASSERT_TRUE(is_contradicted || std::regex_search(ran.out, level, std::regex("Now bring .* to (.+) by hand")))
          << ran.out;
      QStringList words{QStringLiteral("reboot"), QStringLiteral("--state"),
                        QString::fromStdString(about["bench"].get<std::string>())};
      const bool is_null = study.find("restarts-first") != std::string::npos;
      if (!is_null)
        words = {QStringLiteral("set"), QStringLiteral("--state"), words[2],
                 QString::fromStdString(about["settings"].at(level[1].str()).get<std::string>()),
                 QStringLiteral("--reboot")};
      EXPECT_EQ(run(QStringLiteral("iron-lever-simbench"), words).code, 0);
    }
    FAIL() << "the sheet does not end";
  }
  json reveal(const std::string& folder) const {
    const Outcome revealed = cli({"practice", "reveal", folder, "--json"});
    EXPECT_EQ(revealed.code, 0) << revealed.err;
    return json::parse(revealed.out, nullptr, false);
  }
  /// What the program says, as one who trusts it would sign it.
  void signAsFound(const std::string& id, const std::string& study) {
    const json findings = json::parse(cli({"findings", study, "--json"}).out);
    const json change = findings["cases"][0]["effect"];
    const double lo = change["improvement_lo_percent"].get<double>();
    const double hi = change["improvement_hi_percent"].get<double>();
    const std::string recommend = lo > 2 ? "use" : hi < 2 ? "keep" : lo > 0 ? "use" : "cannot_say";
    const Outcome is_signed = cli({"practice", "sign", id, "--percent", change["improvement_percent"].dump(), "--lo",
                                   change["improvement_lo_percent"].dump(), "--hi",
                                   change["improvement_hi_percent"].dump(), "--recommend", recommend, "--json"});
    EXPECT_EQ(is_signed.code, 0) << is_signed.err;
  }
  [[nodiscard]] std::string path(const json& about, const char* name = "study") const {
    return about[name].get<std::string>();
  }
};

TEST_F(Practice, ListsTwelveExercises) {
  const json list = json::parse(cli({"practice", "list", "--json"}).out);
  ASSERT_EQ(list["exercises"].size(), 12U);
  for (const json& one : list["exercises"])
    for (const char* field : {"id", "title", "teaches"}) EXPECT_FALSE(one[field].get<std::string>().empty());
  EXPECT_EQ(cli({"practice"}).code, 2);
}

TEST_F(Practice, IsSignedOnceAndSeenAfterwards) {
  const json about = begin("clean-gain", {"--rounds", "3", "--passes", "1"});
  EXPECT_THAT(path(about), ::testing::EndsWith("clean-gain.ironlever"));
  Outcome early = cli({"practice", "reveal", "clean-gain", "--json"});
  EXPECT_EQ(early.code, 1);
  EXPECT_EQ(early.out, "");
  EXPECT_THAT(early.err, HasSubstr("once a claim is signed"));
  EXPECT_EQ(cli({"run", path(about), "--quiet"}).code, 4) << "its commands are approved like any others";
  runSheet(about, path(about));
  EXPECT_EQ(
      cli({"practice", "sign", "clean-gain", "--percent", "5", "--lo", "6", "--hi", "7", "--recommend", "use"}).code, 1)
      << "the number lies in its interval";
  EXPECT_EQ(
      cli({"practice", "sign", "clean-gain", "--percent", "5", "--lo", "4", "--hi", "7", "--recommend", "perhaps"})
          .code,
      2);
  signAsFound("clean-gain", path(about));
  const Outcome again =
      cli({"practice", "sign", "clean-gain", "--percent", "5", "--lo", "4", "--hi", "7", "--recommend", "use"});
  EXPECT_EQ(again.code, 1);
  EXPECT_THAT(again.err, HasSubstr("signed already"));
  const json seen = reveal("clean-gain");
  for (const char* field : {"truth", "claim", "program", "score", "take_away"}) EXPECT_TRUE(seen.contains(field));
  for (const char* part : {"sound", "alone", "thrifty"}) EXPECT_TRUE(seen["score"][part].is_number());
  EXPECT_GE(seen["truth"]["percent"].get<double>(), 5);
  EXPECT_LE(seen["truth"]["percent"].get<double>(), 12);
  EXPECT_NEAR(seen["program"]["percent"].get<double>(), seen["claim"]["percent"].get<double>(), 1e-6);
  EXPECT_EQ(reveal("clean-gain"), seen);
  const json record = json::parse(cli({"practice", "record", "--json"}).out);
  EXPECT_EQ(record["all"]["claims"], 1) << "shown twice, it counts once";
  EXPECT_EQ(cli({"practice", "forget"}).code, 0);
  EXPECT_EQ(json::parse(cli({"practice", "record", "--json"}).out)["all"]["claims"], 0);
  EXPECT_EQ(cli({"practice", "start", "clean-gain", "clean-gain"}).code, 1) << "never over another try";
}

// Before it is signed nothing tells the truth: no file of the folder, nothing that is printed, no page.
TEST_F(Practice, HidesItsTruth) {
  json about = begin("free", {"--effect", "7.654321", "--noise", "0.3", "--flips", "0.2", "--rounds", "3"});
  std::string all = about.dump();
  runSheet(about, path(about));
  for (const std::vector<std::string>& words : {std::vector<std::string>{"findings", path(about), "--json"},
                                                {"passes", path(about), "--json"},
                                                {"status", path(about), "--json"},
                                                {"practice", "reveal", "free"},
                                                {"report", path(about), "--out", "r.html"},
                                                {"logbook", path(about)}}) {
    const Outcome said = cli(words);
    all += said.out + said.err;
  }
  for (const auto& entry : std::filesystem::recursive_directory_iterator(folder_.path()))
    if (entry.is_regular_file()) all += support::contents(entry.path());
  for (const char* hidden : {"7.654321", "0.92889" /* its factor */, "\"visit_sd\"", "\"take_away\""})
    EXPECT_EQ(all.find(hidden), std::string::npos) << hidden;
}

// Each can be passed by a sound plan, and failed in the way that it teaches.
TEST_F(Practice, TellsALevelThatDidNotTakeFromOneThatDid) {
  json about = begin("did-not-take", {"--rounds", "3", "--passes", "2"});
  runSheet(about, path(about));
  signAsFound("did-not-take", path(about));
  json seen = reveal("did-not-take");
  EXPECT_EQ(seen["score"]["alone"], 100) << seen["why"].dump();
  std::filesystem::rename(folder_ / "did-not-take", folder_ / "first");
  about = begin("did-not-take", {"--order", "blocked", "--rounds", "2"});
  for (int i = 0; i < 8; ++i) {  // who never goes to the menu, and measures what is there
    const Outcome ran = cli({"run", path(about), "--approve", "--quiet"});
    if (ran.code == 0) break;
    (void)cli({"measure-anyway", path(about), "the menu says so"});
  }
  EXPECT_EQ(
      cli({"practice", "sign", "did-not-take", "--percent", "0", "--lo", "-0.5", "--hi", "0.5", "--recommend", "keep"})
          .code,
      0);
  seen = reveal("did-not-take");
  EXPECT_EQ(seen["score"]["sound"], 0);
  EXPECT_EQ(seen["score"]["alone"], 0);
}

// Planted: a visit that was left out and measured once more still stood as a stop, which nobody could ever clear.
TEST_F(Practice, LetsAVisitInWhichSomethingElseMovedBeMeasuredAgain) {
  const json about = begin("came-along", {"--rounds", "4", "--passes", "1"});
  runSheet(about, path(about));
  const auto stops = [&] {
    std::vector<std::string> ids;
    const json findings = json::parse(cli({"findings", path(about), "--json"}).out);
    for (const json& doubt : findings["doubts"])
      if (doubt["rank"] == "stop") ids.push_back(doubt["id"]);
    return ids;
  };
  ASSERT_EQ(stops().size(), 1U);
  const std::string visit = stops().front().substr(stops().front().rfind(' ') + 1);
  ASSERT_EQ(cli({"repeat-visit", path(about), visit, "the card was seated again"}).code, 0);
  EXPECT_EQ(stops().size(), 1U) << "asked for is not yet done";
  runSheet(about, path(about));
  EXPECT_TRUE(stops().empty());
  signAsFound("came-along", path(about));
  EXPECT_EQ(reveal("came-along")["score"]["alone"], 100);
}

TEST_F(Practice, CallsAClaimThatWasRightByChanceSo) {
  const json about =
      begin("free", {"--effect", "0", "--noise", "0.2", "--flips", "3", "--order", "blocked", "--rounds", "2"});
  runSheet(about, path(about));
  EXPECT_EQ(
      cli({"practice", "sign", "free", "--percent", "0", "--lo", "-0.2", "--hi", "0.2", "--recommend", "keep"}).code,
      0);
  const json seen = reveal("free");
  EXPECT_TRUE(seen["claim"]["holds"].get<bool>());
  EXPECT_TRUE(seen["claim"]["by_chance"].get<bool>()) << seen.dump(1);
  EXPECT_EQ(seen["score"]["sound"], 0);
}

TEST_F(Practice, MeasuresRestartsBeforeAPartGoes) {
  const json about = begin("part-for-good");
  runSheet(about, path(about, "restarts_first"));
  runSheet(about, path(about));
  QStringList back{QStringLiteral("set"), QStringLiteral("--state"), QString::fromStdString(path(about, "bench")),
                   QStringLiteral("processor=q4")};
  EXPECT_EQ(run(QStringLiteral("iron-lever-simbench"), back).code, 1) << "the part is gone";
  signAsFound("part-for-good", path(about));
  EXPECT_EQ(reveal("part-for-good")["score"]["alone"], 100);
}

TEST_F(Practice, NamesWhatCannotBeBegun) {
  EXPECT_THAT(cli({"practice", "start", "no-such", "x"}).err, HasSubstr("there is no exercise 'no-such'"));
  EXPECT_THAT(
      cli({"practice", "sign", "nowhere", "--percent", "0", "--lo", "0", "--hi", "0", "--recommend", "keep"}).err,
      HasSubstr("no exercise was begun in this folder"));
  EXPECT_THAT(cli({"practice", "start", "clean-gain", "x", "--effect", "5"}).err, HasSubstr("only free practice"));
  folder_.write("own.json", "{\"id\": \"own\"}");
  EXPECT_THAT(cli({"practice", "start", "own.json", "x"}).err, HasSubstr("a short text is expected for title"));
  // Planted: a field of another type ended the program with an exception.
  std::filesystem::create_directory(folder_ / "odd");
  folder_.write("odd/exercise.json", R"({"exercise": "x", "study": "x.ironlever", "flip": "menu", "settings": 3})");
  EXPECT_THAT(cli({"practice", "reveal", "odd"}).err, HasSubstr("once a claim is signed"));
  folder_.write("planless.json",
                R"({"id": "own", "title": "t", "teaches": "w", "story": "s", "asks": "a", "take_away": "x",
    "percent": 1, "truth": {"variables": {}, "cases": {}}, "design": {"plan": 3}})");
  EXPECT_THAT(cli({"practice", "start", "planless.json", "y"}).err, HasSubstr("the exercise's design"));
  // Planted: what a failed start had made was in the way of the next one, and a pipe was read for ever.
  json refused = json::parse(support::contents(IRON_LEVER_SOURCE "/exercises/clean-gain.json"));
  refused["truth"]["cases"] = 3;
  folder_.write("refused.json", refused.dump());
  EXPECT_EQ(cli({"practice", "start", "refused.json", "z"}).code, 1);
  EXPECT_FALSE(std::filesystem::exists(folder_ / "z"));
  std::filesystem::create_directory(folder_ / "z");
  EXPECT_EQ(cli({"practice", "start", "refused.json", "z"}).code, 1);
  EXPECT_TRUE(std::filesystem::is_empty(folder_ / "z"));
  EXPECT_EQ(cli({"practice", "start", "clean-gain", "z"}).code, 0);
  EXPECT_THAT(cli({"practice", "seal", "/dev/zero", "sealed.json"}).err, HasSubstr("is not a regular file"));
  folder_.write("broken/exercise.json", "{");
  EXPECT_THAT(cli({"practice", "reveal", "broken"}).err, HasSubstr("no exercise was begun"));
}

}  // namespace
