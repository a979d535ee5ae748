#include "core/study/study.h"

#include <algorithm>

namespace core {

const char* spreadName(Spread spread) { return spread == Spread::Own ? "own" : "shared"; }

const char* orderName(Order order) {
  switch (order) {
    case Order::Blocked: return "blocked";
    case Order::ThereAndBack: return "there and back";
    case Order::BalancedShuffle: return "rounds";
  }
  return "unknown";
}

const char* schoolName(School school) {
  switch (school) {
    case School::AsDelivered: return "as delivered";
    case School::WithHeadroom: return "with headroom";
  }
  return "unknown";
}

std::vector<std::string> schoolAsks(School school) {
  if (school == School::AsDelivered)
    return {"Leave the machine as its users have it: their limits, their cooling, their background programs.",
            "What comes along with the change is a part of the answer."};
  return {"Lift out of the way every other limit: a frame cap, a power limit, heat, a slow drive.",
          "Choose presets that wait for what the variable feeds.",
          "Hold what would come along with the change, so that only the variable differs."};
}

std::vector<int> evenLooks(int looks, int rounds) {
  constexpr int kFirst = 3;
  std::vector<int> at;
  if (looks < 2) return at;
  for (int look = 1; look <= looks; ++look) {
    const int round = std::max(kFirst, rounds * look / looks);
    if (at.empty() || round > at.back()) at.push_back(round);
  }
  return at.size() < 2 || at.back() != rounds ? std::vector<int>{} : at;
}

std::vector<double> Study::targets() const {
  std::vector<double> all{target_fps};
  all.insert(all.end(), further_targets_fps.begin(), further_targets_fps.end());
  return all;
}

bool isBenchHere(const Study& study) {
  if (!study.ssh_name.empty()) return false;
  if (!study.machine.empty() || study.is_this_machine.value_or(false)) return true;
  const bool is_all_typed =
      !study.cases.empty() && std::all_of(study.cases.begin(), study.cases.end(),
                                          [](const Case& a_case) { return a_case.source == ResultSource::ByHand; });
  return study.is_this_machine.value_or(!is_all_typed);
}

bool isUnasked(const Variable& variable) {
  return variable.kind.empty() && variable.name.empty() &&
         std::all_of(variable.levels.begin(), variable.levels.end(), [](const Level& one) { return one == Level(); });
}

}  // namespace core
