#include "core/machine/comparison.h"

#include <gtest/gtest.h>

#include <set>

#include "core/machine/difference_sentences.h"

namespace {

using core::Capture;
using core::Fact;
using core::Moved;

Fact fact(const std::string& name, const std::string& value, core::FactKind kind = core::FactKind::Configuration) {
  Fact made;
  made.name = name;
  made.value = value;
  made.kind = kind;
  return made;
}

Fact denied(const std::string& name) {
  Fact made = fact(name, "");
  made.status = core::FactStatus::Denied;
  made.why = "needs root";
  return made;
}

Capture captureWith(std::initializer_list<Fact> facts, const std::string& boot = "") {
  Capture capture;
  capture.boot_id = boot;
  for (const Fact& one : facts) capture.put(one);
  return capture;
}

core::Comparison compare(const Capture& a, const Capture& b, const char* kind, const std::string& device = "",
                         std::vector<std::string> fields = {}) {
  return core::compareCaptures(a, b, {core::findVariableKind(kind), device, std::move(fields), "A", "B"});
}

/// A graphics card in a slot, its link at `gts`.
Capture slotAt(const std::string& gts, const std::string& busy = "97", const std::string& bus = "01") {
  const std::string card = "pci/0000:" + bus + ":00.0/";
  Capture capture =
      captureWith({fact("pci/0000:00:01.0/class", "0x060400"), fact("pci/0000:00:01.0/vendor", "0xf1a0"),
                   fact("pci/0000:00:01.0/current_link_speed", gts), fact(card + "class", "0x030000"),
                   fact(card + "vendor", "0xf1c9"), fact(card + "device", "0x9010"),
                   fact(card + "chain", "0000:00:01.0 0000:" + bus + ":00.0"), fact(card + "current_link_speed", gts)});
  for (const std::string& end : {std::string("pci/0000:00:01.0/"), card}) {
    Fact width = fact(end + "current_link_width", "16");
    width.number = 16;
    capture.put(width);
  }
  Fact load = fact(card + "gpu_busy_percent", busy, core::FactKind::Volatile);
  load.number = std::stod(busy);
  capture.put(load);
  return capture;
}

TEST(Comparison, IsValidWhenOnlyTheDeclaredFieldsMoved) {
  const auto result = compare(slotAt("16.0 GT/s"), slotAt("8.0 GT/s"), "pcie_generation", "0000:01:00.0");
  EXPECT_EQ(result.meant.size(), 2U);
  EXPECT_TRUE(result.isValidPair()) << result.reason;
}

TEST(Comparison, SaysThatNothingMoved) {
  const auto result = compare(slotAt("16.0 GT/s"), slotAt("16.0 GT/s"), "pcie_generation", "0000:01:00.0");
  EXPECT_EQ(result.moved, Moved::No);
  EXPECT_FALSE(result.isValidPair());
  EXPECT_NE(result.reason.find("did not change"), std::string::npos);
}

TEST(Comparison, TrustsNoIdleLink) {
  const auto result = compare(slotAt("16.0 GT/s"), slotAt("2.5 GT/s", "0"), "pcie_generation", "0000:01:00.0");
  EXPECT_EQ(result.moved, Moved::Undetermined);
  EXPECT_NE(result.reason.find("under load"), std::string::npos) << result.reason;
}

TEST(Comparison, HoldsNoSleepingLinkAgainstAnotherVariable) {
  Capture awake = slotAt("16.0 GT/s");
  Capture asleep = slotAt("2.5 GT/s", "0");
  for (Capture* capture : {&awake, &asleep}) capture->put(fact("kernel/swappiness", capture == &awake ? "60" : "10"));
  const auto result = compare(awake, asleep, "other", "0000:01:00.0", {"kernel/swappiness"});
  EXPECT_TRUE(result.isValidPair()) << result.reason;
  EXPECT_EQ(result.unread.size(), 2U);  // both ends: nobody knows
}

TEST(Comparison, ForgivesWhatMemoryDriftsBetweenRestarts) {
  const auto with = [](double total, double reserve) {
    Capture capture = captureWith({fact("memory/total", ""), fact("memory/firmware_reserve", "")});
    for (Fact& one : capture.facts) {
      one.number = one.name == "memory/total" ? total : reserve;
      one.value = std::to_string(*one.number);
    }
    return capture;
  };
  EXPECT_TRUE(compare(with(33.6e9, 256e6), with(33.61e9, 260e6), "governor").must_not.empty());
  EXPECT_EQ(compare(with(33.6e9, 256e6), with(33.0e9, 860e6), "governor").must_not.size(), 2U);
}

TEST(Comparison, FindsACardAgainWhoseBusNumberMoved) {
  const auto result = compare(slotAt("16.0 GT/s"), slotAt("8.0 GT/s", "97", "02"), "pcie_generation", "0000:01:00.0");
  EXPECT_EQ(result.moved, Moved::Yes) << result.reason;
  for (const core::Difference& difference : result.must_not)
    EXPECT_TRUE(difference.field.ends_with("/chain")) << difference.field;
}

TEST(Differences, OfBothModulesOrBothEndsAreOneSentence) {
  const auto moved = [](const std::string& field, const char* from, const char* to) {
    core::Difference difference;
    difference.field = field;
    difference.from = fact(field, from);
    difference.to = fact(field, to);
    return difference;
  };
  EXPECT_EQ(core::differenceSentences(
                {moved("dmi/memory/DIMM_A2/rank", "1", "2"), moved("kernel/release", "6.1", "6.6"),
                 moved("dmi/memory/DIMM_B2/rank", "1", "2"), moved("dmi/memory/DIMM_B1/rank", "2", "1")}),
            (std::vector<std::string>{
                core::differenceSentences({moved("dmi/memory/DIMM_A2/rank", "1", "2")}).front() + " on both modules",
                core::differenceSentences({moved("kernel/release", "6.1", "6.6")}).front(),
                core::differenceSentences({moved("dmi/memory/DIMM_B1/rank", "2", "1")}).front()}));
}

TEST(Differences, OfAmountsAreToldAsPeopleSayThem) {
  core::Difference aperture;
  aperture.field = "pci/0000:01:00.0/aperture_size";
  for (const auto& [configuration, bytes] :
       {std::pair{&aperture.from, 268435456.0}, std::pair{&aperture.to, 17179869184.0}}) {
    *configuration = fact(aperture.field, std::to_string(static_cast<long long>(bytes)));
    configuration->number = bytes;
    configuration->unit = "bytes";
  }
  const std::string sentence = core::differenceSentences({aperture}).front();
  EXPECT_NE(sentence.find("rose from 256 MiB to 16 GiB"), std::string::npos) << sentence;
}

TEST(Comparison, NamesWhatElseMoved) {
  Capture changed = slotAt("8.0 GT/s");
  Capture baseline = slotAt("16.0 GT/s");
  baseline.put(fact("firmware/version", "D2-1.14"));
  changed.put(fact("firmware/version", "D2-1.15"));
  const auto result = compare(baseline, changed, "pcie_generation", "0000:01:00.0");
  EXPECT_EQ(result.moved, Moved::Yes);
  EXPECT_FALSE(result.only_variable_changed);
  EXPECT_EQ(result.reason, "firmware version changed from D2-1.14 to D2-1.15 together with the link change");
}

TEST(Comparison, NeverCallsWhatCouldNotBeReadUnchanged) {
  const auto result = compare(captureWith({denied("dmi/memory/all/configured_speed")}),
                              captureWith({denied("dmi/memory/all/configured_speed")}), "memory_speed");
  EXPECT_EQ(result.moved, Moved::Undetermined);
  EXPECT_TRUE(result.unchanged.empty());
  ASSERT_EQ(result.unread.size(), 1U);
  EXPECT_EQ(result.unread[0].why, "needs root");
}

TEST(Comparison, CannotShowAFirmwareChangeWithinOneBoot) {
  const auto at = [](const char* mts) {
    return captureWith({fact("dmi/memory/DIMM_A2/configured_speed", mts)}, "boot-1");
  };
  const auto result = compare(at("6000"), at("4800"), "memory_speed");
  EXPECT_EQ(result.moved, Moved::No);
  EXPECT_NE(result.reason.find("one boot"), std::string::npos);
}

TEST(Comparison, WantsEveryModuleToMove) {
  const auto at = [](const char* a, const char* b, const char* boot) {
    return captureWith({fact("dmi/memory/DIMM_A2/configured_speed", a), fact("dmi/memory/DIMM_B2/configured_speed", b)},
                       boot);
  };
  EXPECT_EQ(compare(at("6000", "6000", "1"), at("4800", "4800", "2"), "memory_speed").moved, Moved::Yes);
  EXPECT_EQ(compare(at("6000", "6000", "1"), at("4800", "6000", "2"), "memory_speed").moved, Moved::No);
}

TEST(Comparison, ReportsOneCauseOnce) {
  const Capture all = captureWith({fact("cpu/online", "0-3"), fact("cpu/offline", ""), fact("cpu/logical", "4"),
                                   fact("cpu/cpu3/core", "package 0, core 3"), fact("kernel/swappiness", "60")});
  const Capture fewer = captureWith(
      {fact("cpu/online", "0-2"), fact("cpu/offline", "3"), fact("cpu/logical", "3"), fact("kernel/swappiness", "60")});
  const auto by_accident = compare(all, fewer, "memory_speed");
  ASSERT_EQ(by_accident.must_not.size(), 1U);
  EXPECT_EQ(by_accident.must_not[0].field, "cpu/online");
  EXPECT_EQ(by_accident.must_not[0].consequences.size(), 3U);
  EXPECT_TRUE(compare(all, fewer, "core_count").isValidPair());
}

TEST(Comparison, LeavesNoiseAndEvidenceOut) {
  Fact warm = fact("hwmon/card/amdgpu/temp1_input", "61", core::FactKind::Volatile);
  warm.group = "temperatures";
  Fact cool = warm;
  cool.value = "55";
  const auto result =
      compare(captureWith({warm, fact("pci/x/aer_dev_correctable", "RxErr 3", core::FactKind::Evidence)}),
              captureWith({cool, fact("pci/x/aer_dev_correctable", "RxErr 0", core::FactKind::Evidence)}), "governor");
  EXPECT_TRUE(result.must_not.empty());
  EXPECT_EQ(result.left_out, std::vector<std::string>{"temperatures"});
  EXPECT_EQ(result.evidence.size(), 1U);
}

TEST(Comparison, TakesTheTestersOwnFields) {
  const auto result = compare(captureWith({fact("kernel/swappiness", "60")}),
                              captureWith({fact("kernel/swappiness", "10")}), "other", "", {"kernel/swappiness"});
  EXPECT_TRUE(result.isValidPair());
  EXPECT_EQ(compare(captureWith({}), captureWith({}), "other").moved, Moved::Undetermined);
}

// The same processor at another clock is one more arm among processors: what was declared of it moves instead of it.
TEST(Comparison, OfAWholeTakesThePartOrWhatIsDeclaredOfIt) {
  const auto part = [](const char* model, const char* clock, const char* boot) {
    return captureWith({fact("cpu/model", model), fact("cpu/max_khz", clock), fact("kernel/swappiness", "60")}, boot);
  };
  const Capture stock = part("Ostrel Q8", "4000000", "1");
  const Capture faster = part("Ostrel Q8", "4400000", "2");
  const Capture smaller = part("Ostrel Q6", "4000000", "3");
  EXPECT_EQ(compare(stock, faster, "processor").moved, Moved::No);
  EXPECT_EQ(compare(stock, faster, "processor", "", {"cpu/max_khz"}).moved, Moved::Yes);
  EXPECT_EQ(compare(stock, smaller, "processor", "", {"cpu/max_khz"}).moved, Moved::Yes);
  EXPECT_EQ(compare(stock, part("Ostrel Q8", "4000000", "4"), "processor", "", {"cpu/max_khz"}).moved, Moved::No);
}

// One menu switch often moves the drive's link too: that is released with a reason, or declared by the kind.
TEST(Comparison, OfALinkLetsAnotherLinkComeAlongWhereThatWasDeclared) {
  Capture before = slotAt("16.0 GT/s PCIe");
  Capture after = slotAt("8.0 GT/s PCIe");
  before.put(fact("pci/0000:04:00.0/current_link_speed", "16.0 GT/s PCIe"));
  after.put(fact("pci/0000:04:00.0/current_link_speed", "8.0 GT/s PCIe"));
  const char* card = "0000:01:00.0";
  EXPECT_EQ(compare(before, after, "pcie_link", card).must_not.size(), 1U);
  EXPECT_TRUE(compare(before, after, "pcie_links", card).isValidPair());
  core::ComparisonOrder order{core::findVariableKind("pcie_link"), card, {}, "A", "B"};
  order.held = {"pci/0000:04:00.0/*"};
  order.released = {{"pci/0000:04:00.0/*", "one switch of the menu sets both"}};
  const core::Comparison released = core::compareCaptures(before, after, order);
  EXPECT_TRUE(released.isValidPair()) << released.reason;
  EXPECT_FALSE(released.only_variable_changed);  // it is told all the same
}

TEST(Comparison, IsTheSameMirroredWhenTheSidesAreSwapped) {
  const auto forth = compare(slotAt("16.0 GT/s"), slotAt("8.0 GT/s"), "pcie_generation", "0000:01:00.0");
  const auto back = compare(slotAt("8.0 GT/s"), slotAt("16.0 GT/s"), "pcie_generation", "0000:01:00.0");
  ASSERT_EQ(forth.meant.size(), back.meant.size());
  EXPECT_EQ(forth.meant[0].from.value, back.meant[0].to.value);
  EXPECT_EQ(forth.unchanged, back.unchanged);
}

TEST(VariableKinds, EachHasAFieldStepsAndCautions) {
  std::set<std::string_view> ids;
  for (const core::VariableKind& kind : core::variableKinds()) {
    EXPECT_TRUE(ids.insert(kind.id).second) << kind.id;
    EXPECT_EQ(kind.must_change.empty() && kind.any_of.empty(), kind.id == "other") << kind.id;
    EXPECT_FALSE(kind.steps.empty() || kind.cautions.empty()) << kind.id;
  }
  EXPECT_EQ(ids.size(), 22U);
  EXPECT_EQ(core::findVariableKind("warp"), nullptr);
}

TEST(Patterns, MatchAcrossSlashes) {
  EXPECT_TRUE(core::matchesPattern("dmi/memory/*/size", "dmi/memory/DIMM_A2/size"));
  EXPECT_TRUE(core::matchesPattern("*", ""));
  EXPECT_TRUE(core::matchesPattern("a*b*c", "a-b-b-c"));
  EXPECT_FALSE(core::matchesPattern("cpu/*", "pci/cpu/x"));
  EXPECT_FALSE(core::matchesPattern("a*b", "ab-"));
}

}  // namespace
