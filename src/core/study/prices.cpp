#include "core/study/prices.h"

#include <algorithm>
#include <cmath>

namespace core {

std::optional<Price> priceOf(const Study& study, ConfigurationId configuration) {
  const std::vector<std::size_t> levels = study.levelsAt(configuration);
  std::optional<Price> sum;
  for (std::size_t i = 0; i < levels.size(); ++i) {
    const auto& all = study.variables[i].levels;
    if (std::none_of(all.begin(), all.end(), [](const Level& one) { return one.price.has_value(); })) continue;
    const auto& price = all[levels[i]].price;
    if (!price) return std::nullopt;
    if (!sum) sum = Price{0, price->currency};
    sum->amount += price->amount;
  }
  return sum;
}

std::vector<Error> priceProblems(const Study& study) {
  constexpr double kMost = 1e12;
  constexpr std::size_t kLongest = 20;
  std::vector<Error> problems;
  const Price* first = nullptr;
  for (const Variable& variable : study.variables)
    for (const Level& level : variable.levels) {
      if (!level.price) continue;
      const Price& price = *level.price;
      if (!(price.amount >= 0 && price.amount <= kMost) || price.currency.empty() || price.currency.size() > kLongest)
        problems.push_back({ErrorKind::OutOfRange, "a price is an amount of 0 or more, and its currency", level.name,
                            "Enter both, for example 120 EUR"});
      if (first == nullptr) first = &price;
      if (price.currency != first->currency)
        problems.push_back({ErrorKind::OutOfRange,
                            "prices are in two currencies, " + first->currency + " and " + price.currency, level.name,
                            "Enter all of them in one"});
    }
  return problems;
}

}  // namespace core
