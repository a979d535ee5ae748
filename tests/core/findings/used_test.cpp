// What each level used beside what it gave.
#include "core/findings/used.h"

#include <gtest/gtest.h>

#include <cmath>
#include <limits>
#include <random>

#include "support/recorded_study.h"

namespace {

using core::ChannelRole;
using core::ConfigurationId;

core::ChannelSummary channel(const char* name, const char* unit, ChannelRole role, double median,
                             const char* part = "processor") {
  core::ChannelSummary made;
  made.name = name;
  made.unit = unit;
  made.role = role;
  made.part = part;
  made.lowest = made.median = made.highest = made.mean = median;
  return made;
}

core::Study fourRounds() {
  core::Study study = support::studyOf({"true"});
  study.plan.order = core::Order::BalancedShuffle;
  study.plan.rounds = 4;
  study.plan.passes_per_visit = 2;
  study.plan.warm_ups = 0;
  study.plan.is_sealed = false;
  study.plan.drawn = core::drawRoundsOf(study, study.plan, study.plan.rounds, 3);
  return study;
}

bool isChanged(const core::Slot& slot) { return slot.configuration == ConfigurationId::Changed; }

double usedWobble(const core::Slot& slot) { return std::sin(1.7 * slot.visit + 0.9 * slot.number); }

std::vector<core::Used> usedIn(const support::RecordedStudy& study) {
  const core::Record record = study.recorded();
  return core::usedOf(study.study, record, core::judgementOf(study.study, record));
}

const core::Used* named(const std::vector<core::Used>& all, const std::string& name) {
  for (const core::Used& one : all)
    if (one.channel == name) return &one;
  return nullptr;
}

TEST(Used, IsComparedByTheContrastOfTheCase) {
  support::RecordedStudy study{fourRounds()};
  study.record([](core::Pass& pass, const core::Slot& slot) {
    pass.value = (isChanged(slot) ? 102.0 : 100.0) + 0.1 * usedWobble(slot);
    pass.samples = {channel("package", "W", ChannelRole::Power, *pass.value),
                    channel("hot spot", "°C", ChannelRole::Temperature, *pass.value)};
  });
  const auto all = usedIn(study);
  const auto judged = study.judged();
  // The same numbers give the same change, interval and p, whatever they are called.
  const core::CaseFinding& finding = judged.findings.cases[0];
  const core::Used* power = named(all, "package");
  ASSERT_TRUE(power && power->change);
  EXPECT_TRUE(power->change->is_ratio);
  EXPECT_DOUBLE_EQ(power->change->value, finding.change.value);
  EXPECT_DOUBLE_EQ(power->change->interval->lo, finding.change.interval->lo);
  EXPECT_DOUBLE_EQ(*power->change->p, finding.effect->contrast.inference->p);
  // Degrees differ in degrees.
  const core::Used* heat = named(all, "hot spot");
  ASSERT_TRUE(heat && heat->change);
  EXPECT_FALSE(heat->change->is_ratio);
  EXPECT_NEAR(heat->change->value, 2, 0.1);
  ASSERT_EQ(heat->at.size(), 2U);
  EXPECT_EQ(heat->at[0].passes, 8);
  EXPECT_NEAR(heat->at[1].median, 102, 0.2);
}

TEST(Used, TellsEnergyOfMeanPowerAndTime) {
  support::RecordedStudy study{fourRounds()};
  const auto fill = [](bool has_frames) {
    return [has_frames](core::Pass& pass, const core::Slot& slot) {
      pass.value = (isChanged(slot) ? 60.0 : 50.0) + 0.01 * usedWobble(slot);
      pass.duration_s = 20;
      if (has_frames) {
        pass.frames.emplace();
        pass.frames->average_fps = *pass.value;
        pass.frames->lows.resize(2);
        pass.frames->holding_percent = {0};
      }
      pass.samples = {channel("package", "W", ChannelRole::Power, 90)};
      pass.samples[0].mean = 120;  // of a few bursts: the median does not tell the energy
    };
  };
  study.record(fill(true));
  const auto frames = usedIn(study);
  const core::Used* energy = named(frames, "energy a frame, package");
  ASSERT_TRUE(energy && energy->change);
  EXPECT_NEAR(energy->at[0].median, 120 / 50.0, 0.001);
  EXPECT_NEAR(energy->change->value, 100 * (50.0 / 60 - 1), 0.1);
  EXPECT_NE(energy->sentence.find("less energy on a frame (16.6 to 16.7), package, for an improvement of 20.0 %"),
            std::string::npos)
      << energy->sentence;
  const core::Used* frames_a_joule = named(frames, "frames a joule, package");
  ASSERT_TRUE(frames_a_joule && frames_a_joule->change);
  EXPECT_NE(frames_a_joule->sentence.find("frames a joule, package 20.0 % higher ("), std::string::npos)
      << frames_a_joule->sentence;
  const auto told = core::usedSentences(frames, study.study, study.judged().findings);
  ASSERT_EQ(told.size(), 1U);  // the one is the other's inverse
  EXPECT_EQ(told[0].find("frames a joule"), std::string::npos) << told[0];
  EXPECT_NEAR((1 + frames_a_joule->change->value / 100) * (1 + energy->change->value / 100), 1, 1e-9);
  EXPECT_EQ(named(frames, "energy a task, package"), nullptr);
  study.record(fill(false));
  const auto tasks = usedIn(study);
  ASSERT_NE(named(tasks, "energy a task, package"), nullptr);
  EXPECT_DOUBLE_EQ(named(tasks, "energy a task, package")->at[0].median, 2400);
}

TEST(Used, SaysWhatRoseAlthoughTheResultDidNot) {
  support::RecordedStudy study{fourRounds()};
  study.record([](core::Pass& pass, const core::Slot& slot) {
    const double noise = usedWobble(slot);
    pass.value = 100 + 0.1 * noise;
    const double more = isChanged(slot) ? 1 : 0;
    pass.samples = {channel("memory in use", "MiB", ChannelRole::Memory, 8192 + 3174 * more + 20 * noise, "memory"),
                    channel("package", "W", ChannelRole::Power, 100 * (1 + 0.09 * more) + 0.2 * noise),
                    channel("large cores", "MHz", ChannelRole::Clock, 4210 - 210 * more + 3 * noise),
                    channel("hot spot", "°C", ChannelRole::Temperature, 70 + 0.3 * more + 0.01 * noise),
                    channel("processor load", "%", ChannelRole::Load, 40 + 5 * noise)};
  });
  const auto all = usedIn(study);
  EXPECT_EQ(named(all, "memory in use")->sentence.substr(0, 26), "uses 3.1 GiB more memory (")
      << named(all, "memory in use")->sentence;
  EXPECT_TRUE(named(all, "memory in use")->sentence.ends_with("), and is no better"));
  EXPECT_TRUE(named(all, "package")->sentence.starts_with("draws 9.0 % more (8."));
  EXPECT_TRUE(named(all, "large cores")->sentence.starts_with("large cores 210 MHz lower ("));
  EXPECT_EQ(named(all, "hot spot")->sentence, "");  // surely more, and less than anybody looks for
  EXPECT_EQ(named(all, "processor load")->sentence, "");
  EXPECT_EQ(core::usedSummary(all), "3 of 5 channels surely moved.");
}

TEST(Used, ComparesNothingThatOneLevelHasNot) {
  support::RecordedStudy study{fourRounds()};
  study.record([](core::Pass& pass, const core::Slot& slot) {
    pass.value = 100 + usedWobble(slot);
    if (isChanged(slot)) pass.samples.push_back(channel("box fan", "rpm", ChannelRole::Fan, 900, "hwmon7"));
    core::ChannelSummary errors =
        channel("link errors, correctable", "errors", ChannelRole::LinkErrors, 1e6, "0000:03:00.0");
    errors.increase = isChanged(slot) ? 4 + slot.number : 0;
    if (slot.visit == 1) errors.increase = -1e6;  // the device came back and began to count anew
    pass.samples.push_back(errors);
    // Two of one name are two channels, whichever comes first.
    for (const char* device : {"0000:03:00.0", "0000:04:00.0"})
      pass.samples.push_back(channel("graphics load", "%", ChannelRole::Load, 50, device));
  });
  const auto all = usedIn(study);
  const core::Used* fan = named(all, "box fan");
  ASSERT_NE(fan, nullptr);
  EXPECT_FALSE(fan->change);
  EXPECT_EQ(fan->at.size(), 1U);
  const core::Used* errors = named(all, "link errors, correctable");
  ASSERT_TRUE(errors && errors->change);
  EXPECT_FALSE(errors->change->is_ratio);
  EXPECT_EQ(errors->at[0].passes + errors->at[1].passes, 14);  // of 16, without the visit that nobody knows
  EXPECT_NE(named(all, "graphics load, 0000:03:00.0"), nullptr);
  EXPECT_NE(named(all, "graphics load, 0000:04:00.0"), nullptr);
  EXPECT_EQ(named(all, "graphics load"), nullptr);
}

// Whoever writes a file may claim anything of what was sampled.
TEST(Used, HoldsAgainstWhatNoBenchShows) {
  support::RecordedStudy study{fourRounds()};
  study.record([](core::Pass& pass, const core::Slot& slot) {
    pass.value = 100 + usedWobble(slot);
    pass.samples = {channel("huge", "W", ChannelRole::Power, 1e308), channel("tiny", "W", ChannelRole::Power, 1e-308),
                    channel("below", "MHz", ChannelRole::Clock, -5), channel("zero", "MiB", ChannelRole::Memory, 0),
                    channel("", "", ChannelRole::Load, 1)};
    pass.samples[0].mean = std::numeric_limits<double>::infinity();
    for (int i = 0; i < 3000; ++i)
      pass.samples.push_back(
          channel(("channel " + std::to_string(i)).c_str(), "%", ChannelRole::Load, usedWobble(slot)));
  });
  const auto all = usedIn(study);
  EXPECT_EQ(all.size(), 1000U);
  for (const core::Used& one : all) {
    for (const core::UsedLevel& level : one.at) EXPECT_TRUE(std::isfinite(level.median)) << one.channel;
    const bool has_interval = one.change && one.change->interval;
    EXPECT_TRUE(!has_interval || one.change->interval->lo <= one.change->interval->hi) << one.channel;
    EXPECT_EQ(one.sentence, "") << one.channel;
  }
  EXPECT_EQ(named(all, "energy a frame, huge"), nullptr);
}

TEST(Used, IsNotToldWhileResultsAreSealed) {
  core::Study sealed = fourRounds();
  sealed.plan.is_sealed = true;
  support::RecordedStudy study{sealed};
  study.record([](core::Pass& pass, const core::Slot& slot) {
    pass.value = 100 + usedWobble(slot);
    pass.samples = {channel("package", "W", ChannelRole::Power, isChanged(slot) ? 120 : 90)};
  });
  EXPECT_FALSE(usedIn(study).empty());
  study.passes.pop_back();
  EXPECT_TRUE(usedIn(study).empty());
}

TEST(Used, HoldsTheTruthAsOftenAsItSays) {
  std::mt19937_64 random(30);
  std::normal_distribution<double> normal;
  constexpr int kStudies = 2000;
  int power_holds = 0;
  int heat_holds = 0;
  int false_sentences = 0;
  for (int i = 0; i < kStudies; ++i) {
    support::RecordedStudy study{fourRounds()};
    std::map<int, double> of_visit;
    study.record([&](core::Pass& pass, const core::Slot& slot) {
      if (!of_visit.contains(slot.visit)) of_visit[slot.visit] = normal(random);
      const double flip = of_visit[slot.visit];
      pass.value = 100 * std::exp(0.01 * normal(random) + 0.005 * flip);
      const double moved = isChanged(slot) ? 1 : 0;
      pass.samples = {
          channel("package", "W", ChannelRole::Power,
                  90 * std::exp(0.05 * moved + 0.02 * normal(random) + 0.01 * flip)),
          channel("hot spot", "°C", ChannelRole::Temperature, 70 + 3 * moved + normal(random) + 0.5 * flip)};
      for (const char* quiet : {"a", "b", "c", "d", "e", "f"})
        pass.samples.push_back(channel(quiet, "%", ChannelRole::Load, 40 + 3 * normal(random)));
    });
    const core::Record record = study.recorded();
    const auto all = core::usedOf(study.study, record, {}, {}, core::findingsOf(study.study, record));
    const auto holds = [](const core::Used& used, double truth) {
      return used.change->interval->lo <= truth && truth <= used.change->interval->hi;
    };
    power_holds += holds(*named(all, "package"), 100 * (std::exp(0.05) - 1));
    heat_holds += holds(*named(all, "hot spot"), 3);
    false_sentences += std::any_of(all.begin(), all.end(),
                                   [](const core::Used& used) { return used.unit == "%" && !used.sentence.empty(); });
  }
  for (const int held : {power_holds, heat_holds}) {
    EXPECT_GE(held, 0.935 * kStudies);
    EXPECT_LE(held, 0.965 * kStudies);
  }
  EXPECT_LE(false_sentences, 0.05 * kStudies);
}

}  // namespace
