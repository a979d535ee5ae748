// Studies beside each other and in the cabinet, by the real programs.
#include <gtest/gtest.h>

#include <algorithm>
#include <filesystem>
#include <sstream>

#include <nlohmann/json.hpp>

#include "support/programs.h"

namespace {

using nlohmann::json;
using support::Outcome;

class Beside : public support::ProgramsTest {
 protected:
  /// A study whose second level is so many percent faster; its bench says what processor it has, and how much memory.
  void make(const std::string& name, int percent, const std::string& model = "Quarry 8",
            const std::string& preset = "4K dome") const {
    const std::string machine = "machine-" + name;
    std::filesystem::create_directories(folder_ / (machine + "/proc/sys/kernel/random"));
    folder_.write(machine + "/proc/cpuinfo", "processor\t: 0\nmodel name\t: " + model + "\n");
    folder_.write(machine + "/proc/sys/kernel/random/boot_id", "boot-" + name + "\n");
    const std::string script = R"sh(n=$(cat n-)sh" + name + R"sh( 2>/dev/null || echo 0); n=$((n+1)); echo $n > n-)sh" +
                               name + R"sh(; echo "{\"score\": $((BASE + n % 5))}")sh";
    const auto level = [](const std::string& called, int base) {
      return json{{"name", called}, {"environment", {{"BASE", std::to_string(base)}}}};
    };
    const auto a_case = [&](const std::string& which) {
      return json{{"workload", "Star survey"},
                  {"preset", which},
                  {"command", {"sh", "-c", script}},
                  {"result", "json_field"},
                  {"field", "score"},
                  {"metric", {{"name", "score"}, {"unit", "points"}, {"direction", "higher"}}}};
    };
    const json design{{"bench", "Dome node 3"},
                      {"machine", machine},
                      {"variable", "factor"},
                      {"levels", {level("one", 1000), level("two", 1000 + 10 * percent)}},
                      {"cases", {a_case(preset), a_case("2K dome")}},
                      {"plan", {{"order", "rounds"}, {"rounds", 4}, {"passes_per_visit", 2}, {"warm_ups", 0}}}};
    folder_.write(name + ".json", design.dump());
    const std::string file = name + ".ironlever";
    const Outcome made = call({"new", file, "--design", name + ".json"});
    ASSERT_EQ(made.code, 0) << made.err;
    const Outcome ran = call({"run", file, "--approve", "--quiet"});
    ASSERT_EQ(ran.code, 0) << ran.err;
  }
  [[nodiscard]] Outcome call(const std::vector<std::string>& words) const {
    QStringList arguments;
    for (const std::string& word : words) arguments << QString::fromStdString(word);
    return cli(arguments);
  }
  [[nodiscard]] json answer(std::vector<std::string> words) const {
    words.emplace_back("--json");
    const Outcome out = call(words);
    json parsed = json::parse(out.out, nullptr, false);
    EXPECT_FALSE(parsed.is_discarded()) << out.out << out.err;
    return parsed;
  }
};

TEST_F(Beside, SaysWhatTheChangeDoesNowOverWhatItDidThen) {
  make("then", 5);
  make("now", 15, "Quarry 9");
  const json found = answer({"beside", "then.ironlever", "now.ironlever"});
  EXPECT_EQ(found["kind"], "same_question");
  ASSERT_EQ(found["studies"].size(), 2U);
  EXPECT_EQ(found["studies"][0]["sha256"].get<std::string>().size(), 64U);
  ASSERT_EQ(found["rows"].size(), 3U) << "the suites first";
  EXPECT_EQ(found["rows"][0]["case"], "all");
  const json& row = found["rows"][1];
  EXPECT_EQ(row["case"], "Star survey, 4K dome");
  EXPECT_EQ(row["effects"][1]["study"], "now.ironlever");
  EXPECT_NEAR(row["effects"][0]["improvement_percent"], 5, 0.5);
  const json& difference = row["difference"];
  EXPECT_NEAR(difference["percent"], 100 * (1.15 / 1.05 - 1), 0.6);
  EXPECT_LT(difference["percent_lo"], difference["percent"]);
  EXPECT_EQ(difference["verdict"], "gain");
  EXPECT_TRUE(difference["p_holm"].is_number());
  const bool names_processor = std::any_of(found["differs_between_benches"].begin(),
                                           found["differs_between_benches"].end(), [](const json& one) {
                                             return one["values"] == json::array({"Quarry 8", "Quarry 9"});
                                           });
  EXPECT_TRUE(names_processor) << found["differs_between_benches"];
  const Outcome text = call({"beside", "then.ironlever", "now.ironlever"});
  EXPECT_NE(text.out.find("Quarry 8, Quarry 9"), std::string::npos) << text.out;
  EXPECT_NE(text.out.find("now.ironlever over then.ironlever: improvement +9."), std::string::npos) << text.out;
}

// Planted: what takes longer came out as a gain, since the contrast of a time is not on the scale of improvements.
TEST_F(Beside, SaysThatATimeHasBecomeBetterWhereItHas) {
  make("then", 5);
  make("now", 15);
  for (const char* name : {"then", "now"}) {
    json design = json::parse(support::contents(folder_ / (std::string(name) + ".json")));
    for (json& one : design["cases"]) one["metric"] = {{"name", "time"}, {"unit", "s"}, {"direction", "lower"}};
    folder_.write(std::string(name) + "-time.json", design.dump());
    const std::string file = std::string(name) + "-time.ironlever";
    ASSERT_EQ(call({"new", file, "--design", std::string(name) + "-time.json"}).code, 0);
    ASSERT_EQ(call({"run", file, "--approve", "--quiet"}).code, 0);
  }
  const json found = answer({"beside", "then-time.ironlever", "now-time.ironlever"});
  for (const json& row : found["rows"]) {
    EXPECT_NEAR(row["effects"][0]["improvement_percent"], 100 * (1 / 1.05 - 1), 0.5);
    EXPECT_NEAR(row["difference"]["percent"], 100 * (1.05 / 1.15 - 1), 0.6) << row;
    EXPECT_EQ(row["difference"]["verdict"], "loss") << row;
    EXPECT_LT(row["effects"][0]["d"], 0) << "on the scale of improvements";
  }
}

TEST_F(Beside, TellsWhatIsMeantFromWhatCameAlong) {
  make("then", 5);
  make("now", 15, "Quarry 9");
  folder_.write("machine-now/proc/sys/kernel/osrelease", "6.2\n");
  const auto why = [](const json& found, const std::string& fact) {
    for (const json& one : found["differs_between_benches"])
      if (one["fact"] == fact) return one;
    return json();
  };
  json found = answer({"beside", "then.ironlever", "now.ironlever"});
  EXPECT_EQ(why(found, "cpu/model")["why"], "came_along");
  EXPECT_NE(found["claim"].get<std::string>().find("not yet the same bench"), std::string::npos) << found["claim"];
  found = answer({"beside", "then.ironlever", "now.ironlever", "--meant", "cpu/*"});
  EXPECT_EQ(why(found, "cpu/model")["why"], "meant");
  EXPECT_EQ(found["claim"].get<std::string>().find("not yet the same bench"), std::string::npos) << found["claim"];
  EXPECT_NE(found["claim"].get<std::string>().find("Of the factor, two over one over all cases: +5."),
            std::string::npos)
      << found["claim"];
  found = answer({"beside", "then.ironlever", "now.ironlever", "--accept", "cpu/model=the same family"});
  EXPECT_EQ(why(found, "cpu/model")["reason"], "the same family");
  const Outcome text = call({"beside", "then.ironlever", "now.ironlever", "--meant", "cpu/*"});
  EXPECT_NE(text.out.find("Meant to differ between the benches:"), std::string::npos) << text.out;
}

TEST_F(Beside, NamesAStudyWithAStop) {
  make("then", 5);
  make("now", 15);
  const json before = answer({"beside", "then.ironlever", "now.ironlever"});
  EXPECT_EQ(before["stopped"], json::array());
  json design = json::parse(support::contents(folder_ / "now.json"));
  // Which nobody exchanged: both levels read alike, and the bench is measured all the same.
  design["variable"] = "processor";
  design["kind"] = "other";
  design["fields"] = {"cpu/model"};
  for (const char* name : {"a", "b"}) {
    folder_.write(std::string(name) + ".json", design.dump());
    ASSERT_EQ(call({"new", std::string(name) + ".ironlever", "--design", std::string(name) + ".json"}).code, 0);
    constexpr int kFour = 4;  // it waits for a person
    int code = kFour;
    for (int visit = 0; visit < 10 && code == kFour; ++visit) {
      code = call({"run", std::string(name) + ".ironlever", "--approve", "--quiet"}).code;
      if (code == kFour) (void)call({"measure-anyway", std::string(name) + ".ironlever", "to see"});
    }
    ASSERT_EQ(code, 0);
  }
  const json found = answer({"beside", "a.ironlever", "b.ironlever"});
  const Outcome text = call({"beside", "a.ironlever", "b.ironlever"});
  for (const json& sentence : found["stopped"])
    EXPECT_NE(text.out.find(sentence.get<std::string>()), std::string::npos) << text.out;
  const json alone = answer({"findings", "a.ironlever"});
  const bool is_stopped = std::any_of(alone["doubts"].begin(), alone["doubts"].end(),
                                      [](const json& one) { return one["rank"] == "stop"; });
  ASSERT_TRUE(is_stopped) << alone["doubts"];
  EXPECT_EQ(found["stopped"].size(), 2U);
}

TEST_F(Beside, TellsNoDifferenceOfTwoQuestions) {
  make("then", 5);
  make("now", 15);
  json other = json::parse(support::contents(folder_ / "now.json"));
  other["variable"] = "governor";
  folder_.write("other.json", other.dump());
  ASSERT_EQ(call({"new", "other.ironlever", "--design", "other.json"}).code, 0);
  ASSERT_EQ(call({"run", "other.ironlever", "--approve", "--quiet"}).code, 0);
  json found = answer({"beside", "then.ironlever", "other.ironlever"});
  for (const json& row : found["rows"]) {
    EXPECT_TRUE(row["difference"].is_null());
    EXPECT_EQ(row["why_no_difference"], "then.ironlever moves the factor, other.ironlever the governor");
  }
  // Another pair of levels of the same variable.
  other["variable"] = "factor";
  other["levels"][1]["name"] = "three";
  folder_.write("other.json", other.dump());
  ASSERT_EQ(call({"new", "third.ironlever", "--design", "other.json"}).code, 0);
  ASSERT_EQ(call({"run", "third.ironlever", "--approve", "--quiet"}).code, 0);
  found = answer({"beside", "then.ironlever", "third.ironlever"});
  EXPECT_EQ(found["rows"][0]["why_no_difference"], "third.ironlever does not ask what two brings over one");
}

TEST_F(Beside, ADifferenceHoldsIfFlipsAddNothingWhereAStudyDoes) {
  make("then", 5);
  json once = json::parse(support::contents(folder_ / "then.json"));
  once["plan"] = {{"order", "blocked"}, {"passes_per_level", 4}, {"warm_ups", 0}};
  folder_.write("once.json", once.dump());
  ASSERT_EQ(call({"new", "once.ironlever", "--design", "once.json"}).code, 0);
  ASSERT_EQ(call({"run", "once.ironlever", "--approve", "--quiet"}).code, 0);
  const json found = answer({"beside", "then.ironlever", "once.ironlever"});
  const json& marks = found["rows"][1]["difference"]["marks"];
  EXPECT_NE(std::find(marks.begin(), marks.end(), "if flipping adds nothing"), marks.end()) << found["rows"][1];
  // And one visit at a level says nothing of how sure its mean is.
  const json levels = answer({"beside", "then.ironlever", "once.ironlever", "--level", "two"});
  EXPECT_EQ(levels["rows"][0]["why_no_difference"], "once.ironlever has no interval of it");
}

// A line of RFC 4180 without quotes in it.
std::vector<std::string> cellsOf(const std::string& line) {
  std::vector<std::string> cells(1);
  bool is_quoted = false;
  for (const char c : line) {
    if (c == '"')
      is_quoted = !is_quoted;
    else if (c == ',' && !is_quoted)
      cells.emplace_back();
    else if (c != '\r')
      cells.back() += c;
  }
  return cells;
}

TEST_F(Beside, IsWrittenAsAPageAPictureAndATableOfTheSameNumbers) {
  make("then", 5);
  make("now", 15, "Quarry 9");
  for (const char* name : {"b.html", "b.svg", "b.csv", "b.json"})
    ASSERT_EQ(
        call({"beside", "then.ironlever", "now.ironlever", "--reference", "promise; the <maker>; 12; %", "--out", name})
            .code,
        0);
  EXPECT_EQ(call({"beside", "then.ironlever", "now.ironlever", "--out", "b.txt"}).code, 1);
  if (QFile::exists(QCoreApplication::applicationDirPath() + QStringLiteral("/iron-lever"))) {
    const Outcome drawn = call({"beside", "then.ironlever", "now.ironlever", "--out", "b.pdf"});
    ASSERT_EQ(drawn.code, 0) << drawn.err;
    EXPECT_EQ(support::contents(folder_ / "b.pdf").substr(0, 5), "%PDF-");
  }
  const json found = json::parse(support::contents(folder_ / "b.json"));
  std::vector<std::vector<std::string>> rows;
  std::istringstream lines(support::contents(folder_ / "b.csv"));
  for (std::string line; std::getline(lines, line);) rows.push_back(cellsOf(line));
  ASSERT_EQ(rows.size(), 1 + 2 * found["rows"].size());
  const auto column = [&](const std::string& name) {
    return static_cast<std::size_t>(std::find(rows[0].begin(), rows[0].end(), name) - rows[0].begin());
  };
  for (std::size_t i = 0; i < found["rows"].size(); ++i) {
    const json& row = found["rows"][i];
    const auto& last = rows[2 + 2 * i];
    EXPECT_EQ(last[column("case")], row["case"]);
    EXPECT_EQ(std::stod(last[column("improvement_percent")]), row["effects"][1]["improvement_percent"].get<double>());
    EXPECT_EQ(std::stod(last[column("difference_percent")]), row["difference"]["percent"].get<double>());
    EXPECT_EQ(last[column("verdict")], row["difference"]["verdict"]);
  }
  const std::string page = support::contents(folder_ / "b.html");
  EXPECT_NE(page.find("the &lt;maker&gt;: 12"), std::string::npos);
  EXPECT_NE(page.find("What came along, and nobody meant:"), std::string::npos);
  EXPECT_NE(page.find(found["studies"][0]["sha256"].get<std::string>()), std::string::npos);
  EXPECT_NE(support::contents(folder_ / "b.svg").find("all cases together"), std::string::npos);
}

TEST_F(Beside, RefusesAStudyAndItsOwnCopy) {
  make("then", 5);
  std::filesystem::copy(folder_ / "then.ironlever", folder_ / "copy.ironlever");
  const Outcome refused = call({"beside", "then.ironlever", "copy.ironlever"});
  EXPECT_EQ(refused.code, 1);
  EXPECT_NE(refused.err.find("these share passes"), std::string::npos) << refused.err;
  EXPECT_EQ(call({"beside", "then.ironlever"}).code, 1) << "alone";
  EXPECT_EQ(call({"beside", "then.ironlever", "absent.ironlever"}).code, 1);
}

TEST_F(Beside, ComparesLevelsOfTwoBenchesAndMatchesCasesByHand) {
  make("then", 5);
  make("now", 15, "Quarry 9", "8K dome");
  const json levels = answer({"beside", "then.ironlever", "now.ironlever", "--level", "two"});
  EXPECT_EQ(levels["kind"], "levels_between_benches");
  const auto row = [](const json& found, const std::string& title) {
    for (const json& one : found["rows"])
      if (one["case"] == title) return one;
    return json();
  };
  EXPECT_NEAR(row(levels, "Star survey, 2K dome")["difference"]["percent"], 100 * (1.15 / 1.05 - 1), 0.6);
  EXPECT_EQ(row(levels, "Star survey, 8K dome")["why_no_difference"], "then.ironlever does not have it");
  EXPECT_EQ(call({"beside", "then.ironlever", "now.ironlever", "--level", "three"}).code, 1);
  const json by_hand = answer({"beside", "then.ironlever", "now.ironlever", "--level", "two", "--match",
                               "Star survey, 8K dome=Star survey, 4K dome"});
  EXPECT_TRUE(row(by_hand, "Star survey, 4K dome")["difference"].is_object()) << "levels are matched by hand as well";
  const json matched =
      answer({"beside", "then.ironlever", "now.ironlever", "--match", "Star survey, 8K dome=Star survey, 4K dome"});
  EXPECT_TRUE(row(matched, "Star survey, 4K dome")["difference"].is_object());
  EXPECT_TRUE(row(matched, "Star survey, 8K dome").is_null());
}

TEST_F(Beside, KeepsADocumentThatNamesStudiesAndNumbersFromElsewhere) {
  make("then", 5);
  make("now", 15);
  std::filesystem::create_directory(folder_ / "kept");
  ASSERT_EQ(
      call({"beside", "then.ironlever", "now.ironlever", "--reference", "published; house magazine; 44; %; May 2026",
            "--remark", "after the new driver", "--out", "kept/a.beside.json"})
          .code,
      0);
  const json kept = json::parse(support::contents(folder_ / "kept/a.beside.json"));
  EXPECT_EQ(kept["studies"][0]["path"], "../then.ironlever");
  EXPECT_EQ(kept["remarks"], json::array({"after the new driver"}));
  const json again = answer({"beside", "kept/a.beside.json"});
  EXPECT_EQ(again["rows"][1]["difference"], kept["rows"][1]["difference"]);
  EXPECT_EQ(again["references"][0]["inside"], false);
  EXPECT_EQ(again["changed_since"], json::array());
  const Outcome text = call({"beside", "kept/a.beside.json"});
  EXPECT_NE(
      text.out.find("published, house magazine, May 2026: 44 %, not inside our interval. It was not measured here."),
      std::string::npos)
      << text.out;
  ASSERT_EQ(call({"note", "now.ironlever", "something new"}).code, 0);
  EXPECT_EQ(answer({"beside", "kept/a.beside.json"})["changed_since"], json::array({"../now.ironlever"}));
  json other_kind = kept;
  other_kind["kind"] = "guess";
  folder_.write("kept/other.beside.json", other_kind.dump());
  EXPECT_EQ(call({"beside", "kept/other.beside.json"}).code, 1) << "asked for something that there is not";
  folder_.write("broken.beside.json", R"({"kind": "table"})");
  EXPECT_EQ(call({"beside", "broken.beside.json"}).code, 1);
  EXPECT_EQ(call({"beside", "then.ironlever", "now.ironlever", "--reference", "44 %"}).code, 2);
}

TEST_F(Beside, MakesATableOfSeveralStudies) {
  make("a", 5);
  make("b", 10, "Quarry 9");
  make("c", 15, "Quarry 10");
  const json found = answer({"beside", "a.ironlever", "b.ironlever", "c.ironlever", "--rows", "cpu/model", "--columns",
                             "level", "--case", "Star survey, 4K dome"});
  EXPECT_EQ(found["kind"], "table");
  const json& table = found["table"];
  EXPECT_EQ(table["rows"], json::array({"Quarry 8", "Quarry 9", "Quarry 10"}));
  EXPECT_EQ(table["columns"], json::array({"one", "two"}));
  ASSERT_EQ(table["cells"].size(), 6U);
  EXPECT_NEAR(table["cells"][0]["value"], 1002, 2);
  EXPECT_TRUE(table["cells"][0]["relative_percent"].is_null()) << "the others are held against it";
  EXPECT_NEAR(table["cells"][5]["relative_percent"], 15, 0.5);
  EXPECT_LT(table["cells"][5]["relative_lo_percent"], 15.2);
  EXPECT_EQ(call({"beside", "a.ironlever", "b.ironlever", "--rows", "bench", "--columns", "level"}).code, 1)
      << "two studies in one cell";
}

TEST_F(Beside, CabinetListsEveryStudyWithItsSentence) {
  std::filesystem::create_directories(folder_ / "studies/deep");
  make("then", 5);
  std::filesystem::rename(folder_ / "then.ironlever", folder_ / "studies/deep/then.ironlever");
  ASSERT_EQ(call({"new", "studies/asked.ironlever", "--design", "then.json"}).code, 0);
  folder_.write("studies/broken.ironlever", "no study");
  EXPECT_NE(call({"cabinet"}).out.find("cabinet --add FOLDER"), std::string::npos);
  EXPECT_EQ(call({"cabinet", "--add", "absent"}).code, 1);
  const json all = answer({"cabinet", "--add", "studies"});
  ASSERT_EQ(all["studies"].size(), 3U) << all;
  ASSERT_EQ(all["folders"].size(), 1U);
  const auto with = [&](const json& list, const std::string& state) {
    for (const json& one : list["studies"])
      if (one["state"] == state) return one;
    return json();
  };
  EXPECT_NE(with(all, "complete")["sentence"].get<std::string>().find("changes score over"), std::string::npos);
  EXPECT_EQ(with(all, "complete")["bench"], "Dome node 3");
  EXPECT_TRUE(with(all, "complete")["doubts"]["caution"].is_number());
  EXPECT_TRUE(with(all, "asked")["at"].is_null());
  EXPECT_NE(with(all, "unreadable")["sentence"].get<std::string>().find("broken.ironlever"), std::string::npos);
  // Found by the beginnings of words, whatever a person types.
  EXPECT_EQ(answer({"cabinet", "star", "quar"})["studies"].size(), 1U) << "a workload, and what the bench is made of";
  EXPECT_EQ(answer({"cabinet", "nebula"})["studies"].size(), 0U);
  EXPECT_EQ(answer({"cabinet", "\"OR*", "NOT", "("})["studies"].size(), 0U);
  EXPECT_EQ(call({"cabinet", "--add", "studies"}).code, 1) << "it is there already";
  // One that is gone is forgotten; a folder that is away is said to be, and what was known of it stays.
  std::filesystem::remove(folder_ / "studies/broken.ironlever");
  EXPECT_EQ(answer({"cabinet"})["studies"].size(), 2U);
  std::filesystem::rename(folder_ / "studies", folder_ / "away");
  const json away = answer({"cabinet"});
  EXPECT_EQ(away["studies"].size(), 2U);
  EXPECT_EQ(away["away"].size(), 1U);
  std::filesystem::rename(folder_ / "away", folder_ / "studies");
  EXPECT_EQ(answer({"cabinet", "--remove", "studies"})["studies"].size(), 0U);
}

// A study is what it is wherever it lies, and however often: it is counted once, and found again by a document.
TEST_F(Beside, FollowsAStudyByItsIdentity) {
  std::filesystem::create_directories(folder_ / "studies/later");
  make("then", 5);
  make("now", 15);
  std::filesystem::rename(folder_ / "then.ironlever", folder_ / "studies/then.ironlever");
  std::filesystem::rename(folder_ / "now.ironlever", folder_ / "studies/now.ironlever");
  ASSERT_EQ(call({"beside", "studies/then.ironlever", "studies/now.ironlever", "--out", "a.beside.json"}).code, 0);
  std::filesystem::copy(folder_ / "studies/then.ironlever", folder_ / "studies/z-copy.ironlever");
  const json all = answer({"cabinet", "--add", "studies"});
  std::map<std::string, json> by_name;
  for (const json& one : all["studies"])
    by_name[std::filesystem::path(one["path"].get<std::string>()).filename()] = one;
  EXPECT_EQ(by_name["z-copy.ironlever"]["identity"], by_name["then.ironlever"]["identity"]);
  EXPECT_NE(by_name["now.ironlever"]["identity"], by_name["then.ironlever"]["identity"]);
  EXPECT_EQ(by_name["z-copy.ironlever"]["copy_of"], by_name["then.ironlever"]["path"]);
  EXPECT_TRUE(by_name["then.ironlever"]["copy_of"].is_null());
  EXPECT_NE(call({"cabinet"}).out.find("a copy of"), std::string::npos);

  // Moved, and another one in its place: it is found, and said to be.
  std::filesystem::remove(folder_ / "studies/z-copy.ironlever");
  std::filesystem::rename(folder_ / "studies/then.ironlever", folder_ / "studies/later/kept.ironlever");
  EXPECT_EQ(call({"beside", "a.beside.json"}).code, 1) << "the cabinet has not seen it there yet";
  (void)answer({"cabinet"});
  const json moved = answer({"beside", "a.beside.json"});
  EXPECT_EQ(moved["moved"][0]["from"], "studies/then.ironlever") << moved;
  EXPECT_TRUE(moved["studies"][0]["path"].get<std::string>().ends_with("/studies/later/kept.ironlever"));
  EXPECT_NE(call({"beside", "a.beside.json"}).out.find("it was found by what it is"), std::string::npos);
  std::filesystem::copy(folder_ / "studies/now.ironlever", folder_ / "studies/then.ironlever");
  EXPECT_EQ(answer({"beside", "a.beside.json"})["moved"].size(), 1U) << "not taken for the one that lay there";
  std::filesystem::remove(folder_ / "studies/later/kept.ironlever");
  const Outcome other = call({"beside", "a.beside.json"});
  EXPECT_EQ(other.code, 1);
  EXPECT_NE(other.err.find("another study lies there"), std::string::npos) << other.err;
}

TEST_F(Beside, CabinetReadsAStudyWithoutTouchingIt) {
  make("then", 5);
  std::filesystem::create_directory(folder_ / "studies");
  std::filesystem::rename(folder_ / "then.ironlever", folder_ / "studies/then.ironlever");
  const std::string before = support::contents(folder_ / "studies/then.ironlever");
  (void)answer({"cabinet", "--add", "studies"});
  EXPECT_EQ(support::contents(folder_ / "studies/then.ironlever"), before);
  EXPECT_EQ(std::distance(std::filesystem::directory_iterator(folder_ / "studies"), {}), 1) << "nothing beside it";
}

TEST_F(Beside, DeskAnswersInNumbersWithUnitsAndSaysWhatItCannotDo) {
  const json link = answer({"desk", "link_rate", "generation=4", "lanes=8"});
  EXPECT_NEAR(link["one_direction_GBps"], 15.753846, 1e-6);
  EXPECT_TRUE(link["formula"].is_string());
  const json steps = answer({"desk", "step_gain", "mb_per_frame=20.02", "t0_ms=7.1", "GBps=7.88,15.75"});
  EXPECT_EQ(steps["fps"].size(), 2U);
  EXPECT_TRUE(
      answer({"desk", "value", "base_price=420", "extra_price=0", "gain_percent=4"})["gain_percent_per_100"].is_null());
  const Outcome text = call({"desk", "transfer_time", "megabytes=47.1", "GBps=7.88", "fps=60"});
  EXPECT_NE(text.out.find("5.97716 ms  that it takes"), std::string::npos) << text.out;
  EXPECT_NE(text.out.find("Mind: "), std::string::npos);
  EXPECT_EQ(answer({"desk"})["asks"].size(), 13U);
  for (const std::vector<std::string>& bad : {std::vector<std::string>{"desk", "nothing"},
                                              {"desk", "percent", "from=0", "to=4"},
                                              {"desk", "link_rate", "generation=6", "lanes=8"},
                                              {"desk", "link_rate", "generation=4.5", "lanes=8"},
                                              {"desk", "link_rate", "generation=4"},
                                              {"desk", "link_rate", "generation=4", "lanes=8", "fps=60"},
                                              {"desk", "frame_rate", "ms=4", "fps=250"},
                                              {"desk", "energy", "watts=200"},
                                              {"desk", "margin_from_passes", "values=4"},
                                              {"desk", "link_rate", "generation=4,5", "lanes=8"},
                                              {"desk", "percent", "from=four", "to=4"},
                                              {"desk", "percent", "from", "to=4"},
                                              {"desk", "percent", "from=1", "from=2", "to=4"},
                                              {"desk", "percent", "from=", "to=4"},
                                              {"desk", "memory_rate", "mts=6000", "bits=1e300"},
                                              {"desk", "memory_rate", "mts=6000", "bits=64.5"},
                                              {"desk", "link_rate", "generation=4", "lanes=8", "payload_bytes=0.5"},
                                              {"desk", "percent", "from=1e-300", "to=1e300"},
                                              {"desk", "percent", "from=nan", "to=4"},
                                              {"desk", "percent", "from=1e999", "to=4"}}) {
    const Outcome refused = call(bad);
    EXPECT_NE(refused.code, 0) << bad.back();
    EXPECT_NE(refused.err, "") << bad.back();
    EXPECT_EQ(refused.out, "") << bad.back();
  }
}

}  // namespace
