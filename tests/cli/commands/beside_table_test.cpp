// Three boards with two processors, six studies on simulated benches: one table, held against what is true there.
#include <gtest/gtest.h>

#include <map>

#include <nlohmann/json.hpp>

#include "support/programs.h"

namespace {

using nlohmann::json;
using support::Outcome;

class BesideTable : public support::ProgramsTest {
 protected:
  /// A bench on which each frame takes so many times as long, and the study of it.
  void measure(const std::string& name, const std::string& board, const std::string& processor, double slower,
               int memory_mts = 4800) {
    const json level{{"machine", {{"link_gts", 8.0}}}};
    json truth{{"seed", 77},
               {"visit_sd", 0.0008},
               {"machine", {{"board", board}, {"processor", processor}, {"memory_mts", memory_mts}}},
               {"variables",
                {{"link",
                  {{"initial", "gen3"},
                   {"levels", {{"gen3", level}, {"gen4", {{"link", 0.9}, {"machine", {{"link_gts", 16.0}}}}}}}}}}},
               {"cases",
                {{"Ring pass@4K dome",
                  {{"processor_ms", 8 * slower},
                   {"graphics_ms", 9 * slower},
                   {"memory_ms", 11 * slower},
                   {"link_ms", 2 * slower},
                   {"pass_sd", 0.004}}}}}};
    folder_.write(name + "-truth.json", truth.dump());
    ASSERT_EQ(run(QStringLiteral("iron-lever-simbench"),
                  {QStringLiteral("init"), QStringLiteral("--state"), QString::fromStdString(name),
                   QStringLiteral("--truth"), QString::fromStdString(name + "-truth.json")})
                  .code,
              0);
    const auto set = [&](const char* to) {
      return json::array({"iron-lever-simbench", "set", "--state", name, std::string("link=") + to, "--reboot"});
    };
    const json design{
        {"bench", "Trial node"},
        {"machine", name + "/machine"},
        {"variable", "graphics link"},
        {"kind", "pcie_generation"},
        {"levels",
         {{{"name", "Gen 3"}, {"set_command", set("gen3")}}, {{"name", "Gen 4"}, {"set_command", set("gen4")}}}},
        {"cases",
         {{{"workload", "Ring pass"},
           {"preset", "4K dome"},
           {"command",
            {"iron-lever-simbench", "run", "--state", name, "--case", "Ring pass@4K dome", "--out", "{log}", "--pace",
             "0"}}}}},
        {"plan", {{"order", "rounds"}, {"rounds", 4}, {"passes_per_visit", 1}, {"warm_ups", 0}}}};
    folder_.write(name + ".json", design.dump());
    runExample(QString::fromStdString(name + ".json"), QString::fromStdString(name + ".ironlever"));
  }
  [[nodiscard]] json table(const QStringList& studies, const QStringList& more = {}) const {
    const Outcome out = cli(QStringList{QStringLiteral("beside")} + studies +
                            QStringList{QStringLiteral("--rows"), QStringLiteral("firmware/board"),
                                        QStringLiteral("--columns"), QStringLiteral("cpu/model"),
                                        QStringLiteral("--level"), QStringLiteral("Gen 3"), QStringLiteral("--json")} +
                            more);
    EXPECT_EQ(out.code, 0) << out.err;
    return json::parse(out.out, nullptr, false);
  }
};

TEST_F(BesideTable, HoldsTheTruthOfSixBenchesAndRefusesOneWithOtherMemory) {
  const std::map<std::string, double> slower{{"Corvane D2/Ostrel Q4", 1},    {"Corvane D2/Ostrel Q6", 0.93},
                                             {"Corvane D3/Ostrel Q4", 0.98}, {"Corvane D3/Ostrel Q6", 0.89},
                                             {"Corvane D4/Ostrel Q4", 1.05}, {"Corvane D4/Ostrel Q6", 0.9}};
  QStringList studies;
  for (const auto& [name, factor] : slower) {
    const std::string board = name.substr(0, name.find('/'));
    const std::string processor = name.substr(name.find('/') + 1);
    const std::string file = "bench-" + std::to_string(studies.size());
    measure(file, board, processor, factor);
    studies << QString::fromStdString(file + ".ironlever");
  }
  const json found = table(studies);
  ASSERT_EQ(found["table"]["cells"].size(), 6U) << found;
  EXPECT_EQ(found["table"]["rows"], json::array({"Corvane D2", "Corvane D3", "Corvane D4"}));
  for (const json& cell : found["table"]["cells"]) {
    EXPECT_TRUE(cell["refused"].is_null()) << cell;
    if (cell["relative_percent"].is_null()) continue;  // the first, which the others are held against
    const double truth =
        100 * (1 / slower.at(cell["row"].get<std::string>() + "/" + cell["column"].get<std::string>()) - 1);
    EXPECT_LE(cell["relative_lo_percent"], truth) << cell;
    EXPECT_GE(cell["relative_hi_percent"], truth) << cell;
  }
  // Rows and columns are what is asked about: they are meant to differ, and nothing came along.
  for (const json& one : found["differs_between_benches"]) EXPECT_EQ(one["why"], "meant") << one;
  const json& turned = found["table"]["effects"]["turned_ranks"];
  ASSERT_EQ(turned.size(), 1U) << turned;
  EXPECT_EQ(turned[0], "Corvane D4 is ahead of Corvane D2 at Ostrel Q6, and behind it at Ostrel Q4");

  measure("other", "Corvane D4", "Ostrel Q6", 0.9, 5600);
  studies.back() = QStringLiteral("other.ironlever");
  const json with_other = table(studies);
  const json& refused = with_other["table"]["cells"].back();
  EXPECT_NE(refused["refused"].get<std::string>().find("5600 MT/s, and 4800 MT/s in the first cell"), std::string::npos)
      << refused;
  EXPECT_TRUE(refused["relative_percent"].is_null());
  EXPECT_TRUE(with_other["table"]["effects"].is_null()) << "not every cell stands for one bench";
  const QStringList accepting{QStringLiteral("--accept"),
                              QStringLiteral("memory/configured_speed=the kit it came with")};
  EXPECT_FALSE(table(studies, accepting)["table"]["cells"].back()["relative_percent"].is_null());
  // In the picture it is struck through, in the ground's colour, until somebody accepts it.
  const auto strokesIn = [&](const char* picture, const QStringList& more) {
    (void)table(studies, QStringList{QStringLiteral("--out"), QLatin1String(picture)} + more);
    const std::string svg = support::contents(folder_ / picture);
    EXPECT_NE(svg.find("Corvane D4"), std::string::npos);
    int strokes = 0;
    for (std::size_t at = 0; (at = svg.find("stroke-width=\"1.6\"", at)) != std::string::npos; ++at) ++strokes;
    return strokes;
  };
  EXPECT_GT(strokesIn("refused.svg", {}), 0);
  EXPECT_EQ(strokesIn("accepted.svg", accepting), 0);
}

}  // namespace
