#include "core/record/pass_names.h"

#include <gtest/gtest.h>

#include <functional>
#include <set>
#include <sstream>

#include "support/studies.h"

namespace {

using Ids = std::vector<std::int64_t>;

/// Three rounds of two visits with a warm-up and three passes each; the passes' ids are their slots', from 1.
class Names : public testing::Test {
 protected:
  Names() {
    core::Study study = support::studyOf({"w", "{log}"});
    study.plan.order = core::Order::BalancedShuffle;
    study.plan.rounds = 3;
    study.plan.passes_per_visit = 3;
    study.plan.warm_ups = 1;
    study.plan.drawn = core::drawRounds(2, 3, 1);
    schedule_ = core::scheduleOf(study);
    EXPECT_EQ(schedule_.size(), 24U);
    for (std::size_t i = 0; i < schedule_.size(); ++i) {
      core::Pass pass;
      pass.id = static_cast<std::int64_t>(i) + 1;
      pass.slot = i;
      passes_.push_back(pass);
    }
  }
  [[nodiscard]] std::string said(const std::function<bool(const core::Slot&)>& is_wanted) const {
    Ids ids;
    for (const core::Pass& pass : passes_)
      if (is_wanted(schedule_[pass.slot])) ids.push_back(pass.id);
    return core::PassNames(schedule_, passes_).ofSeveral(ids);
  }
  std::vector<core::Slot> schedule_;
  std::vector<core::Pass> passes_;
};

TEST_F(Names, OfSeveralPassesAreToldAtOnce) {
  const auto counts = [](const core::Slot& slot) { return !slot.is_warm_up; };
  EXPECT_EQ(said(counts), "visits 1 to 6, passes 1 to 3 of each");
  EXPECT_EQ(said([&](const auto& slot) { return counts(slot) && slot.visit <= 2 && slot.number == 1; }),
            "visits 1 and 2, pass 1 of each");
  EXPECT_EQ(said([&](const auto& slot) { return counts(slot) && (slot.visit != 3 || slot.number != 2); }),
            "visits 1 and 2, passes 1 to 3 of each; visit 3, passes 1 and 3; visits 4 to 6, passes 1 to 3 of each");
  EXPECT_EQ(said([&](const auto& slot) { return slot.is_warm_up ? slot.visit > 4 : slot.visit == 6; }),
            "visit 6, passes 1 to 3; visits 5 and 6, warm-up 1 of each");
  EXPECT_EQ(core::PassNames(schedule_, passes_).ofSeveral(Ids{999}), "");
}

// "1 to 3, 5 and 7" as the numbers that it names.
std::set<int> numbersIn(std::string text) {
  std::set<int> numbers;
  for (std::size_t at = text.find(" and "); at != std::string::npos; at = text.find(" and ")) text.replace(at, 5, ", ");
  std::istringstream parts(text);
  for (std::string part; std::getline(parts, part, ',');) {
    const std::size_t to = part.find(" to ");
    const int last = std::stoi(to == std::string::npos ? part : part.substr(to + 4));
    for (int number = std::stoi(part); number <= last; ++number) EXPECT_TRUE(numbers.insert(number).second) << text;
  }
  return numbers;
}

// Whatever set it is: read back, each is named once and no other.
TEST_F(Names, OfSeveralPassesNameEachOfThemAndNoOther) {
  for (unsigned set = 1; set < 4096; set += 5) {
    const auto is_wanted = [&](const core::Slot& slot) {
      const int bit = 3 * (slot.visit - 1) + slot.number - 1;
      return !slot.is_warm_up && bit < 12 && ((set >> bit) & 1U) != 0;
    };
    std::set<std::pair<int, int>> wanted;
    for (const core::Slot& slot : schedule_)
      if (is_wanted(slot)) wanted.emplace(slot.visit, slot.number);
    std::string text = said(is_wanted);
    std::set<std::pair<int, int>> read;
    for (std::string part; !text.empty(); text.erase(0, std::min(text.size(), part.size() + 2))) {
      part = text.substr(0, text.find("; "));
      const std::size_t comma = part.find(", pass");
      for (const int visit : numbersIn(part.substr(part.find(' '), comma - part.find(' '))))
        for (const int pass :
             numbersIn(part.substr(part.find(' ', comma + 2), part.find(" of each") - part.find(' ', comma + 2))))
          EXPECT_TRUE(read.emplace(visit, pass).second) << part;
    }
    EXPECT_EQ(read, wanted) << said(is_wanted);
  }
}

}  // namespace
