// What a study says, in every form that it leaves the bench in: the same numbers, read back by another program.
#include <gtest/gtest.h>

#include <cmath>
#include <cstdio>
#include <filesystem>
#include <map>
#include <regex>
#include <set>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "support/programs.h"

namespace {

using nlohmann::json;
using support::Outcome;

// Reads tables as anybody's script would.
constexpr const char* kReader = R"py(
import csv, json, sys
print(json.dumps([list(csv.DictReader(open(name, newline='', encoding='utf-8'))) for name in sys.argv[1:]]))
)py";

class ReportFiles : public support::ProgramsTest {
 protected:
  /// A pair on two cases, one of them with a further result, its second level 10 % faster.
  void measure() const {
    const std::string script =
        R"sh(n=$(cat n 2>/dev/null || echo 0); n=$((n+1)); echo $n > n; echo "{\"score\": $((BASE + n % 7)), \"sky\": $((BASE / 10))}")sh";
    const auto a_case = [&](const std::string& title) {
      return json{{"workload", title},
                  {"preset", "4K dome, \"wide\""},
                  {"command", {"sh", "-c", script}},
                  {"results",
                   {{{"name", "score"},
                     {"from", "json_field"},
                     {"field", "score"},
                     {"headline", true},
                     {"metric", {{"unit", "points"}, {"direction", "higher"}}}},
                    {{"name", "sky score"},
                     {"from", "json_field"},
                     {"field", "sky"},
                     {"metric", {{"unit", "points"}, {"direction", "higher"}}}}}}};
    };
    const auto level = [](const char* name, const char* base) {
      return json{{"name", name}, {"environment", {{"BASE", base}}}};
    };
    const json design{{"bench", "Dome node 3"},
                      {"variable", "factor"},
                      {"levels", {level("one", "1000"), level("two", "1100")}},
                      {"cases", {a_case("Star survey"), a_case("Ring pass")}},
                      {"plan", {{"order", "rounds"}, {"rounds", 4}, {"passes_per_visit", 2}, {"warm_ups", 1}}}};
    folder_.write("d.json", design.dump());
    runExample(QStringLiteral("d.json"), QStringLiteral("s.ironlever"));
  }
  [[nodiscard]] int report(const char* path) const {
    return cli({QStringLiteral("report"), QStringLiteral("s.ironlever"), QStringLiteral("--out"), QLatin1String(path)})
        .code;
  }
  [[nodiscard]] json readTables(const QStringList& names) const {
    QProcess python;
    python.setWorkingDirectory(QString::fromStdString(folder_.path()));
    python.start(QStringLiteral("python3"), QStringList{QStringLiteral("-c"), QLatin1String(kReader)} + names);
    EXPECT_TRUE(python.waitForFinished()) << "python3";
    return json::parse(python.readAllStandardOutput().toStdString(), nullptr, false);
  }
};

TEST_F(ReportFiles, GiveEveryPercentOfThePageFromThePasses) {
  measure();
  for (const char* path : {"r.html", "r.csv", "r.json", "r.svg"}) ASSERT_EQ(report(path), 0) << path;
  const json tables = readTables({QStringLiteral("r-passes.csv"), QStringLiteral("r-findings.csv")});
  ASSERT_EQ(tables.size(), 2U) << tables;
  const json findings = json::parse(support::contents(folder_ / "r.json"));
  const std::string page = support::contents(folder_ / "r.html");
  ASSERT_EQ(tables[0].size(), 2U * 4U * 2U * 3U) << "warm-ups too";
  for (const json& one : findings["cases"]) {
    std::map<std::string, std::vector<double>> logs;
    for (const json& pass : tables[0]) {
      EXPECT_EQ(pass["study"], "s");
      EXPECT_EQ(pass["unit"], "points");
      EXPECT_TRUE(pass.contains("sky score, points")) << pass;
      if (pass["case"] != one["case"] || pass["counted"] != "true") continue;
      logs[pass["configuration"]].push_back(std::log(std::stod(pass["value"].get<std::string>())));
    }
    const auto mean = [](const std::vector<double>& values) {
      double sum = 0;
      for (const double value : values) sum += value;
      return sum / static_cast<double>(values.size());
    };
    ASSERT_EQ(logs["one"].size(), 8U);
    const double percent = 100 * std::expm1(mean(logs["two"]) - mean(logs["one"]));
    EXPECT_NEAR(percent, one["effect"]["improvement_percent"], 1e-6);
    char printed[32];
    std::snprintf(printed, sizeof printed, "+%.1f", percent);
    EXPECT_NE(page.find(printed), std::string::npos) << printed;
  }
  std::size_t cases = 0;
  for (const json& row : tables[1]) {
    if (row["finding"] != "case") continue;
    const json& one = findings["cases"][cases++];
    EXPECT_EQ(row["case"], one["case"]) << "commas and quotes in a title";
    EXPECT_EQ(row["verdict"], one["verdict"]);
    EXPECT_NEAR(std::stod(row["effect.improvement_percent"].get<std::string>()), one["effect"]["improvement_percent"],
                1e-9);
  }
  EXPECT_EQ(cases, 2U);
  EXPECT_NE(support::contents(folder_ / "r.svg").find("<svg"), std::string::npos);
  EXPECT_NE(report("r.doc"), 0);
}

// Every number with its percent sign, as it is printed.
std::multiset<std::string> percentsOf(const std::string& text) {
  static const std::regex kPercent("(\\+|-|\u2212)?[0-9][0-9.,]*(?= ?%)");
  return {std::sregex_token_iterator(text.begin(), text.end(), kPercent), {}};
}

std::string wordsOf(std::string page) {
  page = std::regex_replace(page.substr(page.find("<body>")), std::regex("<svg[^]*?</svg>|<[^>]*>"), " ");
  return std::regex_replace(page, std::regex("&nbsp;|\u00a0"), " ");
}

// The page, the same as text, and on paper: drawn by the program with the window, without a display.
TEST_F(ReportFiles, SayTheSameInEveryFormForReading) {
  measure();
  ::unsetenv("DISPLAY");
  for (const char* path : {"r.html", "r.md", "r.pdf", "r.png"}) ASSERT_EQ(report(path), 0) << path;
  const auto on_page = percentsOf(wordsOf(support::contents(folder_ / "r.html")));
  EXPECT_GT(on_page.size(), 10U);
  const std::string text = support::contents(folder_ / "r.md");
  EXPECT_EQ(percentsOf(text), on_page);
  EXPECT_NE(text.find("![The chart](r.svg)"), std::string::npos);
  EXPECT_TRUE(std::filesystem::exists(folder_ / "r.svg"));
  EXPECT_NE(text.find("\n| case | one | two |"), std::string::npos) << text;
  QProcess reader;
  reader.setWorkingDirectory(QString::fromStdString(folder_.path()));
  reader.start(QStringLiteral("pdftotext"), {QStringLiteral("r.pdf"), QStringLiteral("-")});
  ASSERT_TRUE(reader.waitForFinished()) << "pdftotext";
  const auto on_paper = percentsOf(wordsOf("<body>" + reader.readAllStandardOutput().toStdString()));
  for (const std::string& one : on_page) EXPECT_TRUE(on_paper.contains(one)) << one;
  EXPECT_EQ(support::contents(folder_ / "r.png").substr(1, 3), "PNG");
  // Where it cannot be written, it is said why, and nothing lies there.
  const Outcome none = cli({QStringLiteral("report"), QStringLiteral("s.ironlever"), QStringLiteral("--out"),
                            QStringLiteral("absent/r.pdf")});
  EXPECT_EQ(none.code, 1);
  EXPECT_NE(none.err.find("absent"), std::string::npos) << none.err;
}

// Planted: a heading stood alone at the foot of a sheet, and what it is the heading of on the next. Own words of so
// many lines bring every heading there once.
TEST_F(ReportFiles, LeaveNoHeadingAloneAtTheFootOfASheet) {
  measure();
  ASSERT_EQ(report("r.html"), 0);
  const std::string page = support::contents(folder_ / "r.html");
  std::set<QString> headings;
  const std::regex heading("<h2>([^<]*)</h2>");
  for (auto one = std::sregex_iterator(page.begin(), page.end(), heading); one != std::sregex_iterator(); ++one)
    headings.insert(QString::fromStdString((*one)[1]));
  ASSERT_GT(headings.size(), 4U);
  std::string words;
  for (int lines = 0; lines < 8; ++lines) {
    folder_.write("words.txt", words);
    words += "Another line.\n\n";
    ASSERT_EQ(cli({QStringLiteral("report"), QStringLiteral("s.ironlever"), QStringLiteral("--out"),
                   QStringLiteral("h.pdf"), QStringLiteral("--own-words"), QStringLiteral("words.txt")})
                  .code,
              0);
    QProcess reader;
    reader.setWorkingDirectory(QString::fromStdString(folder_.path()));
    reader.start(QStringLiteral("pdftotext"),
                 {QStringLiteral("-layout"), QStringLiteral("h.pdf"), QStringLiteral("-")});
    ASSERT_TRUE(reader.waitForFinished()) << "pdftotext";
    const QString text = QString::fromUtf8(reader.readAllStandardOutput());
    for (const QString& sheet : text.split(QChar::FormFeed, Qt::SkipEmptyParts)) {
      const QString last = sheet.trimmed().section(u'\n', -1).trimmed();
      EXPECT_FALSE(headings.contains(last)) << lines << ": " << last.toStdString();
    }
  }
}

// Planted: the page calls people by number, and home folders ~; its numbers for scripts named both.
TEST_F(ReportFiles, NameNobodyWhomNobodyChoseToName) {
  measure();
  ASSERT_EQ(
      cli({QStringLiteral("explain"), QStringLiteral("s.ironlever"), QStringLiteral("Star survey, 4K dome, \"wide\""),
           QStringLiteral("conjecture"), QStringLiteral("see /home/osei/notes.txt")})
          .code,
      0);
  const auto text = [&](const QStringList& more) {
    const Outcome out = cli(QStringList{QStringLiteral("report"), QStringLiteral("s.ironlever"),
                                        QStringLiteral("--out"), QStringLiteral("n.json")} +
                            more);
    EXPECT_EQ(out.code, 0) << out.err;
    return json::parse(support::contents(folder_ / "n.json"));
  };
  const json alone = text({});
  ASSERT_EQ(alone["explanations"].size(), 1U);
  EXPECT_EQ(alone["explanations"][0]["person"], "Person 1");
  EXPECT_EQ(alone.dump().find("/home/osei"), std::string::npos);
  EXPECT_NE(text({QStringLiteral("--names")})["explanations"][0]["person"], "Person 1");
}

TEST_F(ReportFiles, TellNothingBeforeThePlanIsComplete) {
  measure();
  const Outcome made =
      cli({QStringLiteral("new"), QStringLiteral("t.ironlever"), QStringLiteral("--design"), QStringLiteral("d.json")});
  ASSERT_EQ(made.code, 0);
  for (const char* path : {"t.csv", "t.json", "t.svg", "t.html", "t.md", "t.pdf", "t.png"}) {
    EXPECT_NE(
        cli({QStringLiteral("report"), QStringLiteral("t.ironlever"), QStringLiteral("--out"), QLatin1String(path)})
            .code,
        0)
        << path;
    EXPECT_FALSE(std::filesystem::exists(folder_ / path));
  }
  EXPECT_FALSE(std::filesystem::exists(folder_ / "t-passes.csv"));
}

// Whatever is left out of a page: the claim, and what could make it wrong, are in it.
TEST_F(ReportFiles, HaveThePartsThatSomebodyAskedForInTheirOrder) {
  measure();
  const auto made = [&](const QStringList& more, const char* to = "p.html") {
    return cli(QStringList{QStringLiteral("report"), QStringLiteral("s.ironlever"), QStringLiteral("--out"),
                           QString::fromLatin1(to)} +
               more);
  };
  const auto page = [&] { return support::contents(folder_ / "p.html"); };
  folder_.write("words.txt", "# For the <board>\nWe ask\nfor it.\n\n- one\n- two & three\n");
  ASSERT_EQ(made({QStringLiteral("--parts"), QStringLiteral("results,text"), QStringLiteral("--own-words"),
                  QStringLiteral("words.txt"), QStringLiteral("--keep-as"), QStringLiteral("ours")})
                .code,
            0);
  const std::string first = page();
  EXPECT_NE(first.find("<h2>For the &lt;board&gt;</h2>"), std::string::npos) << "nothing in it is markup";
  EXPECT_NE(first.find("We ask for it."), std::string::npos);
  EXPECT_LT(first.find("Star survey"), first.find("For the &lt;board&gt;")) << "in their order";
  EXPECT_EQ(first.find("What this is not"), std::string::npos);
  EXPECT_NE(first.find("Not dealt with:"), std::string::npos) << "an open caution stands in every page";
  ASSERT_EQ(made({QStringLiteral("--template"), QStringLiteral("ours")}).code, 0);
  EXPECT_EQ(page(), first) << "kept";
  ASSERT_EQ(made({QStringLiteral("--template"), QStringLiteral("hurry")}).code, 0);
  EXPECT_EQ(page().find("<table"), std::string::npos);
  folder_.write("words.txt", "Before.\n---\nBetween.\n---\nAfter all.\n");
  ASSERT_EQ(made({QStringLiteral("--parts"), QStringLiteral("text,results,text"), QStringLiteral("--own-words"),
                  QStringLiteral("words.txt")})
                .code,
            0);
  EXPECT_LT(page().find("<p>Before.</p>"), page().find("Star survey, "));
  EXPECT_GT(page().find("<p>Between.</p>\n<p>After all.</p>"), page().find("Star survey, "));
  EXPECT_NE(page().find("<p>Between.</p>\n<p>After all.</p>"), std::string::npos) << "the last place holds the rest";
  EXPECT_NE(made({QStringLiteral("--template"), QStringLiteral("nobody's")}).err.find("full, short, hurry, ours"),
            std::string::npos);
  EXPECT_NE(made({QStringLiteral("--parts"), QStringLiteral("results,results")}).err.find("named twice"),
            std::string::npos);
  EXPECT_NE(made({QStringLiteral("--parts"), QStringLiteral("gossip")}).err.find("no part 'gossip'"),
            std::string::npos);
  EXPECT_NE(made({QStringLiteral("--keep-as"), QStringLiteral("full")}).err.find("name of its own"), std::string::npos);
}

TEST_F(ReportFiles, ShowOneFindingAPictureInATalk) {
  measure();
  const json findings =
      json::parse(cli({QStringLiteral("findings"), QStringLiteral("s.ironlever"), QStringLiteral("--json")}).out);
  ASSERT_EQ(cli({QStringLiteral("report"), QStringLiteral("s.ironlever"), QStringLiteral("--out"),
                 QStringLiteral("talk.svg"), QStringLiteral("--talk")})
                .code,
            0);
  for (const char* name : {"talk-1.svg", "talk-2.svg", "talk-3.svg"})
    EXPECT_NE(support::contents(folder_ / name).find("viewBox=\"0 0 1920 1080\""), std::string::npos) << name;
  EXPECT_FALSE(std::filesystem::exists(folder_ / "talk-4.svg")) << "the claim, and a finding each";
  const std::string second = support::contents(folder_ / "talk-3.svg");
  EXPECT_NE(second.find("2 of 2"), std::string::npos);
  const double percent = findings["cases"][1]["effect"]["change_percent"];
  EXPECT_NE(second.find(fmt::format("+{:.1f} %", percent)), std::string::npos) << "the page's own number";
  ASSERT_EQ(cli({QStringLiteral("report"), QStringLiteral("s.ironlever"), QStringLiteral("--out"),
                 QStringLiteral("phone.svg"), QStringLiteral("--phone"), QStringLiteral("--night")})
                .code,
            0);
  EXPECT_NE(support::contents(folder_ / "phone.svg").find("viewBox=\"0 0 1080 "), std::string::npos);
  EXPECT_NE(support::contents(folder_ / "phone.svg").find("#1b1f22"), std::string::npos) << "light on dark";
  EXPECT_EQ(report("caption.txt"), 0);
  EXPECT_NE(support::contents(folder_ / "caption.txt").find(fmt::format("+{:.1f} %", percent)), std::string::npos);
  EXPECT_NE(cli({QStringLiteral("report"), QStringLiteral("s.ironlever"), QStringLiteral("--out"),
                 QStringLiteral("t.html"), QStringLiteral("--talk")})
                .err.find(".png or .svg"),
            std::string::npos);
  if (QFile::exists(QCoreApplication::applicationDirPath() + QStringLiteral("/iron-lever"))) {
    EXPECT_NE(cli({QStringLiteral("report"), QStringLiteral("s.ironlever"), QStringLiteral("--out"),
                   QStringLiteral("t.pdf"), QStringLiteral("--talk")})
                  .err.find(".png or .svg"),
              std::string::npos)
        << "what draws it is told the same";
  }
}

}  // namespace
