// The invented machine through the command line, against what a correct capture and comparison report.
#include <gtest/gtest.h>

#include <QCoreApplication>
#include <QProcess>
#include <fstream>

#include <nlohmann/json.hpp>

#include "core/machine/fact.h"
#include "support/test_folder.h"

namespace {

using nlohmann::json;

json expected() {
  std::ifstream file(std::string(IRON_LEVER_SOURCE) + "/tests/fixtures/dome-node/expected.json");
  return json::parse(file);
}

// The expected facts of one tree: where the trees differ, a value stands under each tree's name.
json ofTree(const json& value, const std::string& tree) {
  if (value.is_array()) {
    json list = json::array();
    for (const json& one : value) list.push_back(ofTree(one, tree));
    return list;
  }
  if (!value.is_object()) return value;
  if (value.contains(tree) && !value.at(tree).is_object()) return value.at(tree);
  json object = json::object();
  for (const auto& [key, one] : value.items()) {
    if (key == tree)
      object.update(one);
    else if (!key.starts_with("gen") && key != "note")
      object[key] = ofTree(one, tree);
  }
  return object;
}

void expectContains(const json& got, const json& want, const std::string& place) {
  if (want.is_object()) {
    for (const auto& [key, value] : want.items()) {
      if (key == "note") continue;
      ASSERT_TRUE(got.contains(key)) << place << "." << key;
      expectContains(got.at(key), value, place + "." + key);
    }
  } else if (want.is_array()) {
    ASSERT_EQ(got.size(), want.size()) << place;
    for (std::size_t i = 0; i < want.size(); ++i)
      expectContains(got[i], want[i], place + "[" + std::to_string(i) + "]");
  } else {
    EXPECT_EQ(got, want) << place;
  }
}

class CaptureAndDiff : public testing::Test {
 protected:
  static json run(const QStringList& arguments) {
    QProcess process;
    process.start(QCoreApplication::applicationDirPath() + QStringLiteral("/iron-lever-cli"), arguments);
    EXPECT_TRUE(process.waitForFinished(60000));
    EXPECT_EQ(process.exitCode(), 0) << process.readAllStandardError().toStdString();
    return json::parse(process.readAllStandardOutput().toStdString(), nullptr, false);
  }
  [[nodiscard]] static QString q(const std::string& text) { return QString::fromStdString(text); }
  json capture(const std::string& tree) {
    const json captured = run({QStringLiteral("capture"), QStringLiteral("--root"),
                               q(std::string(IRON_LEVER_FIXTURES) + "/dome-node/" + tree), QStringLiteral("--device"),
                               QStringLiteral("0000:03:00.0"), QStringLiteral("--json")});
    folder_.write(tree + ".json", captured.dump());
    return captured;
  }
  json diff(const std::string& a, const std::string& b) {
    return run({QStringLiteral("diff"), q(folder_ / (a + ".json")), q(folder_ / (b + ".json")),
                QStringLiteral("--variable"), QStringLiteral("pcie_generation"), QStringLiteral("--device"),
                QStringLiteral("0000:03:00.0"), QStringLiteral("--json")});
  }
  support::TestFolder folder_;
};

TEST_F(CaptureAndDiff, ReportTheFactsOfEachTree) {
  for (const std::string tree : {"gen4", "gen3", "gen4-idle"}) {
    json want = ofTree(expected().at("facts"), tree);
    if (tree == "gen4-idle") {  // where the file says nothing of this tree
      want.at("memory").erase("configured_mts");
      want.at("memory").erase("peak_gbyte_s");
      want.erase("narrowest_hop");
    }
    expectContains(capture(tree).at("facts"), want, tree);
  }
}

TEST_F(CaptureAndDiff, FlagTheMemoryThatFellBack) {
  (void)capture("gen4");
  (void)capture("gen3");
  const json got = diff("gen4", "gen3");
  const json want = expected();
  for (const char* group :
       {"expected_change", "known_side_effects", "unexpected_changes", "evidence_only", "ignored_as_volatile"})
    EXPECT_EQ(got.at("diff").at(group), want.at("diff").at(group)) << group;
  EXPECT_EQ(got.at("verdict"), want.at("verdict"));
  for (const std::string pattern : want.at("diff").at("must_be_reported_unchanged")) {
    int found = 0;
    for (const std::string name : got.at("diff").at("must_be_reported_unchanged"))
      found += core::matchesPattern(pattern, name);
    EXPECT_GT(found, 0) << pattern;
  }
}

TEST_F(CaptureAndDiff, LeaveAnIdlePairOpen) {
  (void)capture("gen4");
  (void)capture("gen4-idle");
  const json verdict = diff("gen4", "gen4-idle").at("verdict");
  expectContains(verdict, expected().at("idle_pair").at("verdict"), "idle pair");
  EXPECT_FALSE(verdict.at("valid_ab_pair"));
}

}  // namespace
