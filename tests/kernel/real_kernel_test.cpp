// Captures and a study on a real kernel, in a virtual machine whose firmware settings are changed from outside.
#include <QByteArray>
#include <QProcess>
#include <fstream>
#include <future>

#include <fmt/format.h>

#include "core/machine/comparison.h"
#include "core/machine/difference_sentences.h"
#include "kernel/virtual_machine.h"
#include "store/json/capture_json.h"
#include "store/json/study_json.h"
#include "support/studies.h"

namespace {

using kernel::Boot;
using kernel::Firmware;

const char* const kCapture = "iron-lever-cli capture --json | gzip | base64";

core::Capture captureIn(const Boot& boot) {
  QProcess unpack;
  unpack.start(QStringLiteral("sh"), {QStringLiteral("-c"), QStringLiteral("base64 -d -i | gunzip")});
  unpack.write(boot.printed.data(), static_cast<qint64>(boot.printed.size()));
  unpack.closeWriteChannel();
  unpack.waitForFinished();
  const auto capture = store::captureFromJson(unpack.readAllStandardOutput().toStdString(), "serial console");
  EXPECT_TRUE(capture.ok()) << boot.printed.substr(0, 400);
  return capture ? *capture : core::Capture{};
}

class RealKernel : public testing::Test {
 protected:
  void SetUp() override {
    if (const std::string why = kernel::Machine::whyNot(); !why.empty()) GTEST_SKIP() << why;
    machine_ = std::make_unique<kernel::Machine>(folder_.path());
  }
  /// Boots machines two at a time, as there are cores for.
  std::vector<core::Capture> capturesOf(const std::vector<Firmware>& firmwares) const {
    std::vector<core::Capture> captures;
    for (std::size_t i = 0; i < firmwares.size(); i += 2) {
      auto other = std::async(std::launch::async, [&] {
        return i + 1 < firmwares.size() ? machine_->boot(firmwares[i + 1], kCapture) : Boot{};
      });
      captures.push_back(captureIn(machine_->boot(firmwares[i], kCapture)));
      const Boot second = other.get();
      if (i + 1 < firmwares.size()) captures.push_back(captureIn(second));
    }
    return captures;
  }
  static core::Comparison compare(const core::Capture& a, const core::Capture& b, const char* kind) {
    const auto drive = [](const core::Capture& capture) {
      for (const core::Fact& fact : capture.below("pci/"))
        if (fact.name.ends_with("/class") && fact.value.starts_with("0x0108"))
          return fact.name.substr(4, fact.name.size() - 4 - 6);
      return std::string();
    };
    return core::compareCaptures(a, b, {core::findVariableKind(kind), drive(a), {}, "A", "B"});
  }
  static std::string told(const core::Comparison& one) {
    std::string text = std::string(core::movedName(one.moved)) + ": " + one.reason;
    for (const std::string& sentence : core::differenceSentences(one.meant)) text += "\n  meant: " + sentence;
    return text;
  }

  support::TestFolder folder_;
  std::unique_ptr<kernel::Machine> machine_;
};

TEST_F(RealKernel, CapturesTellWhichSettingMovedAndNothingElse) {
  std::vector<Firmware> machines(8);
  machines[1].memory_mts = 4800;
  machines[2].memory_mib = 1536;
  machines[3].processors = "2,cores=2,threads=1";
  machines[4].processors = "4,cores=2,threads=2";
  machines[5].slot = "x-speed=8,x-width=4";
  machines[6].board = "Corvane D4";
  machines[7].version = "D2-1.15";
  const std::vector<core::Capture> seen = capturesOf(machines);
  ASSERT_EQ(seen.size(), machines.size());
  for (const core::Capture& one : seen) ASSERT_GT(one.facts.size(), 100U);
  EXPECT_NE(seen[0].boot_id, seen[1].boot_id);

  const std::tuple<std::size_t, std::size_t, const char*> pairs[] = {
      {0, 1, "memory_speed"}, {0, 2, "memory_capacity"}, {0, 3, "core_count"},
      {4, 3, "smt"},          {0, 6, "board"},           {0, 7, "firmware_version"}};
  for (const auto& [a, b, kind] : pairs) {
    const core::Comparison result = compare(seen[a], seen[b], kind);
    EXPECT_EQ(result.moved, core::Moved::Yes) << kind << " " << told(result);
    for (const core::Difference& difference : result.must_not)  // this firmware sets the rating together with the rate
      EXPECT_TRUE(difference.field.ends_with("/rated_speed")) << kind << " " << told(result);
    EXPECT_TRUE(result.held.empty()) << kind << " " << told(result);
    EXPECT_FALSE(compare(seen[a], seen[a], kind).isValidPair()) << kind;
  }
  // What follows from fewer cores is one sentence, also where it is an accident.
  const auto fewer = core::differenceSentences(compare(seen[0], seen[3], "memory_speed").must_not);
  EXPECT_EQ(fewer, std::vector<std::string>{"the running processors went from 4 (0-3) to 2 (0-1)"});
  // A slot that was set and did not move is said so: the drive links at one lane in either.
  const core::Comparison slot = compare(seen[0], seen[5], "pcie_width");
  EXPECT_EQ(slot.moved, core::Moved::No) << told(slot);
}

// The sheet flips by restarts of the machine and goes on after each by `resume` alone.
TEST_F(RealKernel, AStudyOfThreeRoundsGoesThroughItsRestarts) {
  core::Study study = support::timedStudyOf({"iron-lever-probe", "compute", "--threads", "1", "--million-steps", "20"});
  study.cases[0].field = "seconds.median";
  study.variable().name = "firmware version";
  study.variable().kind = "firmware_version";
  study.variable().levels[0].name = "D2-1.14";
  study.variable().levels[1].name = "D2-1.15";
  study.plan.order = core::Order::BalancedShuffle;
  study.plan.rounds = 3;
  study.plan.passes_per_visit = 1;
  study.plan.drawn = core::drawRounds(2, 3, 1);
  study.plan.is_sealed = true;
  for (core::Level& level : study.variable().levels)
    level.set_command = {"/bin/busybox", "sh", "/disk/flip", level.name};
  const std::string disk = machine_->makeDisk();
  const std::string home =
      "export XDG_STATE_HOME=/disk/state XDG_DATA_HOME=/disk/data XDG_CONFIG_HOME=/disk/config; cd /disk\n";
  const std::string begin =
      home + "cat > design.json <<'DESIGN'\n" + store::studyToJson(study) +
      "\nDESIGN\n"
      "cat > flip <<'FLIP'\necho \"SET $1\" > /dev/console; sync; reboot -f\nFLIP\n"
      "iron-lever-cli new study --design design.json && iron-lever-cli run study --approve --quiet\n";
  const std::string go_on = home + "iron-lever-cli resume && iron-lever-cli findings study --json\n";
  Firmware firmware;
  firmware.processors = "1";  // nothing here needs more, and it starts sooner
  Boot last = machine_->boot(firmware, begin, disk);
  int restarts = 0;
  for (; restarts < 9 && last.printed.find("SET ") != std::string::npos; ++restarts) {
    const std::size_t level = last.printed.find("SET ") + 4;
    firmware.version = last.printed.substr(level, last.printed.find('\n', level) - level);
    last = machine_->boot(firmware, go_on, disk);
  }
  EXPECT_EQ(restarts, 6) << last.printed;  // a flip before each visit
  EXPECT_NE(last.printed.find("\"plan_complete\": true"), std::string::npos) << last.printed.substr(0, 2000);
  EXPECT_NE(last.printed.find("\"verdict\": \"moved as declared\""), std::string::npos);
  EXPECT_NE(last.printed.find("\"estimator\": \"rounds\""), std::string::npos);
  EXPECT_EQ(last.printed.find("\"rank\": \"stop\""), std::string::npos) << last.printed;
}

}  // namespace
