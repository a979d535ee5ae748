#include "core/record/level_measurement.h"

#include <gtest/gtest.h>

#include <set>

namespace {

using core::Agreement;

// One card in a slot, as far as the arithmetic of its link needs it.
core::Capture cardAt(const std::string& speed, int width, double payload_bytes = 0) {
  core::Capture capture;
  const auto put = [&](const std::string& name, const std::string& text, double number) {
    core::Fact fact;
    fact.name = name;
    fact.value = text;
    fact.number = number;
    capture.put(fact);
  };
  for (const char* end : {"0000:00:01.0", "0000:01:00.0"}) {
    put(std::string("pci/") + end + "/current_link_speed", speed, std::stod(speed));
    put(std::string("pci/") + end + "/current_link_width", std::to_string(width), width);
  }
  put("pci/0000:01:00.0/chain", "0000:00:01.0 0000:01:00.0", 0);
  put("pci/0000:01:00.0/class", "0x030000", 0);
  if (payload_bytes > 0) put("pci/0000:01:00.0/config (device control, payload)", "", payload_bytes);
  return capture;
}

core::VisitMeasurement copied(std::vector<double> GBps) {
  return {1, core::CaptureMoment::Start, {{"to_device_GBps", {std::move(GBps)}}}, {}};
}

class MeasuredLinks : public testing::Test {
 protected:
  [[nodiscard]] core::MeasuredStep step(std::vector<double> from, std::vector<double> to) const {
    const auto measured = core::measuredSteps(*core::findVariableKind("pcie_generation"), "0000:01:00.0", gen4_, gen3_,
                                              copied(std::move(from)), copied(std::move(to)));
    EXPECT_EQ(measured.size(), 1U);
    return measured.empty() ? core::MeasuredStep{} : measured.front();
  }
  core::Capture gen4_ = cardAt("16.0 GT/s PCIe", 16);
  core::Capture gen3_ = cardAt("8.0 GT/s PCIe", 16);
};

TEST_F(MeasuredLinks, ShouldHalveWithTheGeneration) {
  const core::MeasuredStep one = step({26.2, 26.1, 26.3, 26.2, 26.2}, {13.1, 13.0, 13.2, 13.1, 13.1});
  EXPECT_NEAR(*one.expected, 0.5, 1e-9);
  EXPECT_NEAR(one.ratio, 0.5, 1e-9);
  EXPECT_EQ(one.agreement, Agreement::Agrees);
}

TEST_F(MeasuredLinks, ThatStayTheSameDisagree) {
  EXPECT_EQ(step({26.2, 26.1, 26.3}, {26.0, 26.2, 26.1}).agreement, Agreement::Disagrees);
}

TEST_F(MeasuredLinks, OfAWildMeasurementShowNothing) {
  EXPECT_EQ(step({26, 13, 20}, {26, 13, 20}).agreement, Agreement::TooNoisy);
}

TEST_F(MeasuredLinks, SetASingleStrayAside) {
  // One of five copies ran into something else: the rest still shows the step.
  EXPECT_EQ(step({26.2, 26.1, 26.3, 9.0, 26.2}, {13.1, 13.0, 13.2, 13.1, 13.1}).agreement, Agreement::Agrees);
}

TEST_F(MeasuredLinks, HaveAnEfficiencyOfTheUsableRate) {
  // 1 GiB in 41.0 ms is 26.19 GB/s, 83.1 % of Gen 4 x16.
  const double measured = 1.073741824 / 0.041;
  const core::VariableKind& kind = *core::findVariableKind("pcie_generation");
  const auto encoded = core::usableRate("to_device_GBps", kind, "0000:01:00.0", gen4_);
  ASSERT_TRUE(encoded);
  EXPECT_NEAR(100 * measured / encoded->GBps, 83.1, 0.05);
  EXPECT_EQ(encoded->of, "encoded");
  const auto usable = core::usableRate("to_device_GBps", kind, "0000:01:00.0", cardAt("16.0 GT/s PCIe", 16, 256));
  ASSERT_TRUE(usable);
  EXPECT_NEAR(usable->GBps, 29.22, 0.01);
  EXPECT_EQ(usable->of, "after packet overhead");
}

TEST(MeasuredSteps, OfATimeCountTheOtherWayRound) {
  core::Capture two;
  core::Capture four;
  for (auto [capture, cores] : {std::pair{&two, 2.0}, std::pair{&four, 4.0}}) {
    core::Fact fact;
    fact.name = "cpu/cores";
    fact.number = cores;
    capture->put(fact);
  }
  const auto took = [](double seconds) {
    return core::VisitMeasurement{1, core::CaptureMoment::Start, {{"seconds", {{seconds}}}}, {}};
  };
  const auto steps = core::measuredSteps(*core::findVariableKind("core_count"), "", two, four, took(1.0), took(0.52));
  ASSERT_EQ(steps.size(), 1U);
  EXPECT_NEAR(steps[0].ratio, 1.92, 0.01);  // faster is above 1
  EXPECT_EQ(steps[0].agreement, Agreement::Agrees);
}

TEST(MeasuredSteps, ThatMustNotBeAreFound) {
  // Resizable BAR leaves a bulk copy as it was: one that changed shows that something else did.
  const core::Capture same = cardAt("16.0 GT/s PCIe", 16);
  const auto steps = core::measuredSteps(*core::findVariableKind("resizable_bar"), "0000:01:00.0", same, same,
                                         copied({26.2, 26.1, 26.3}), copied({23.0, 23.1, 22.9}));
  ASSERT_EQ(steps.size(), 1U);
  EXPECT_EQ(steps[0].agreement, Agreement::Disagrees);
}

TEST(MeasuredSteps, AreNotMadeUpWhereOneLevelIsMissing) {
  const core::Capture any = cardAt("16.0 GT/s PCIe", 16);
  const core::VariableKind& kind = *core::findVariableKind("pcie_width");
  EXPECT_TRUE(core::measuredSteps(kind, "0000:01:00.0", any, any, copied({26}), {}).empty());
}

TEST(MeasuredSteps, AreShownForEveryKindAndJudgedWhereAStepIsDue) {
  const core::Capture any = cardAt("16.0 GT/s PCIe", 16);
  const auto steps =
      core::measuredSteps(*core::findVariableKind("firmware_version"), "", any, any, copied({20}), copied({21}));
  ASSERT_EQ(steps.size(), 1U);
  EXPECT_EQ(steps[0].agreement, Agreement::NoStep);
  EXPECT_EQ(steps[0].sentence(), "measured copy to the device: ×1.05 (1.05 to 1.05); no ratio is expected");
}

TEST(MeasuredSteps, AreJudgedInBothDirections) {
  const auto both = [](double to_device, double to_host) {
    return core::VisitMeasurement{
        1, core::CaptureMoment::Start, {{"to_device_GBps", {{to_device}}}, {"to_host_GBps", {{to_host}}}}, {}};
  };
  const auto steps =
      core::measuredSteps(*core::findVariableKind("pcie_generation"), "0000:01:00.0", cardAt("8.0 GT/s PCIe", 16),
                          cardAt("16.0 GT/s PCIe", 16), both(13.2, 12.9), both(26.2, 12.8));
  ASSERT_EQ(steps.size(), 2U);
  EXPECT_EQ(steps[0].agreement, Agreement::Agrees);
  EXPECT_EQ(steps[1].agreement, Agreement::Disagrees);  // the way back did not move
  EXPECT_EQ(steps[1].title, "copy to the host");
}

TEST(MeasuredSteps, OfADriveAreHeldAgainstItsLinkUnlessTheDriveIsTheLimit) {
  const auto read = [](double GBps) {
    return core::VisitMeasurement{1, core::CaptureMoment::Start, {{"read_GBps", {{GBps}}}, {"access_us", {{80}}}}, {}};
  };
  const core::VariableKind& kind = *core::findVariableKind("pcie_width");
  const core::Capture wide = cardAt("8.0 GT/s PCIe", 4);
  const core::Capture narrow = cardAt("8.0 GT/s PCIe", 2);
  const auto step = [&](double from, double to) {
    return core::measuredSteps(kind, "0000:01:00.0", wide, narrow, read(from), read(to)).front();
  };
  EXPECT_EQ(step(3.3, 1.7).agreement, Agreement::Agrees);
  EXPECT_EQ(step(3.3, 1.7).title, "drive read");
  EXPECT_EQ(step(0.5, 0.5).agreement, Agreement::NoStep);  // a slow drive tells nothing of its link
  EXPECT_NEAR(core::usableRate("read_GBps", kind, "0000:01:00.0", narrow)->GBps, 1.969, 0.001);
}

TEST(MeasuredNames, OfTheProbesEachHaveATitleOfTheirOwn) {
  std::set<std::string> titles;
  for (const char* name : {"read_GBps", "copied_GBps", "to_device_GBps", "to_host_GBps", "latency_ns", "access_us",
                           "clock_GHz", "seconds"}) {
    EXPECT_NE(core::readingTitle(name), name);
    EXPECT_TRUE(titles.insert(core::readingTitle(name)).second) << name;
  }
  EXPECT_EQ(core::readingTitle("copy_GBps"), core::readingTitle("copied_GBps")) << "of earlier versions";
  EXPECT_EQ(core::readingTitle("a person's own"), "a person's own");
}

TEST(MeasuredKinds, BringTheCommandThatMeasuresThem) {
  const auto commandOf = [](const char* kind) {
    return core::suggestedMeasureCommand(*core::findVariableKind(kind), "0000:03:00.0");
  };
  using Words = std::vector<std::string>;
  EXPECT_EQ(commandOf("memory_speed"), (Words{"iron-lever-probe", "memory", "--threads", "0"}));
  EXPECT_EQ(commandOf("pcie_width"), (Words{"iron-lever-probe", "copy", "--pci", "0000:03:00.0"}));
  EXPECT_EQ(commandOf("smt"), (Words{"iron-lever-probe", "compute", "--threads", "0"}));
  EXPECT_TRUE(commandOf("firmware_version").empty());
}

}  // namespace
