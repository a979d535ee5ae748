// A simulated bench in whose way to its levels an accident is planted, asked about on the real command line.
#pragma once

#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "store/json/study_json.h"
#include "store/study/study_file.h"
#include "support/programs.h"
#include "support/studies.h"

namespace support {

using nlohmann::json;

class PlantedBench : public support::ProgramsTest {
 protected:
  Outcome run(const char* program, const std::vector<std::string>& words) const {
    QStringList arguments;
    for (const std::string& word : words) arguments << QString::fromStdString(word);
    return ProgramsTest::run(QString::fromLatin1(program), arguments);
  }
  Outcome cli(const std::vector<std::string>& words) const { return run("iron-lever-cli", words); }

  /// A bench whose variable `name` has two levels of machine fields; everything else as `more` says.
  void makeBench(const std::string& name, const json& baseline, const json& changed,
                 const json& more = json::object()) {
    json truth{
        {"seed", 7},
        {"variables",
         {{name, {{"initial", "a"}, {"levels", {{"a", {{"machine", baseline}}}, {"b", {{"machine", changed}}}}}}}}},
        {"cases", {{"Ring pass@4K dome", {{"processor_ms", 9}, {"graphics_ms", 6}, {"seconds", 5}}}}}};
    truth.merge_patch(more);
    folder_.write("truth.json", truth.dump());
    ASSERT_EQ(run("iron-lever-simbench", {"init", "--state", "bench", "--truth", "truth.json"}).code, 0);
    name_ = name;
  }
  /// A study of it, there and back, that the bench flips by command; or by hand.
  core::Study study(const std::string& kind, const std::string& first, const std::string& second,
                    bool by_hand = false) {
    core::Study study = support::studyOf({"iron-lever-simbench", "run", "--state", "bench", "--case",
                                          "Ring pass@4K dome", "--out", "{log}", "--pace", "0"},
                                         4);
    study.plan.order = core::Order::ThereAndBack;
    study.variable().kind = kind;
    study.machine = "bench/machine";
    study.variable().levels[0].name = first;
    study.variable().levels[1].name = second;
    if (!by_hand)
      for (std::size_t configuration = 0; configuration < 2; ++configuration)
        study.variable().levels[configuration].set_command = {
            "iron-lever-simbench", "set", "--state", "bench", name_ + (configuration == 0 ? "=a" : "=b"), "--reboot"};
    return study;
  }
  void make(const core::Study& study) {
    folder_.write("design.json", store::studyToJson(study));
    const Outcome made = cli({"new", "s", "--design", "design.json"});
    ASSERT_EQ(made.code, 0) << made.err;
  }
  void runStudy(const core::Study& study) {
    make(study);
    const Outcome ran = cli({"run", "s", "--approve", "--quiet"});
    ASSERT_EQ(ran.code, 0) << ran.err;
  }
  /// To its end, whatever the bench says against its levels.
  void runAllTheSame(const core::Study& study) {
    make(study);
    Outcome ran = cli({"run", "s", "--approve", "--quiet"});
    for (int visit = 0; visit < 8 && ran.code == 4; ++visit) {
      ASSERT_EQ(cli({"measure-anyway", "s", "to see what the findings say"}).code, 0) << ran.out << ran.err;
      ran = cli({"run", "s", "--approve", "--quiet"});
    }
    ASSERT_EQ(ran.code, 0) << ran.err;
  }
  [[nodiscard]] json findings() const { return json::parse(cli({"findings", "s", "--json"}).out); }
  static std::vector<std::string> stopsIn(const json& findings) {
    std::vector<std::string> ids;
    for (const json& doubt : findings["doubts"])
      if (doubt["rank"] == "stop") ids.push_back(doubt["id"]);
    return ids;
  }
  static std::string sentenceOf(const json& findings, const std::string& id) {
    for (const json& doubt : findings["doubts"])
      if (doubt["id"] == id) return doubt["sentence"];
    return "";
  }
  using Ids = std::vector<std::string>;
  std::string name_;
};

}  // namespace support
