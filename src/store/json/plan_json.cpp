#include "store/json/design_parts.h"
#include "store/json/field_table.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;
using json = DesignJson;

constexpr Words<core::Order, 4> kOrders{{{"blocked", core::Order::Blocked},
                                         {"there_and_back", core::Order::ThereAndBack},
                                         {"rounds", core::Order::BalancedShuffle},
                                         {"balanced_shuffle", core::Order::BalancedShuffle}}};

constexpr Words<core::PlannedFor, 3> kPlannedFor{{{"difference", core::PlannedFor::Difference},
                                                  {"main_effect", core::PlannedFor::MainEffect},
                                                  {"interaction", core::PlannedFor::Interaction}}};

constexpr Words<core::Spread, 2> kSpreads{{{"own", core::Spread::Own}, {"shared", core::Spread::Shared}}};

constexpr Words<core::LookPrice, 2> kLookPrices{
    {{"thirds", core::LookPrice::Thirds}, {"spending", core::LookPrice::Spending}}};
constexpr Words<core::ExtensionSpread, 2> kExtensionSpreads{
    {{"all", core::ExtensionSpread::All}, {"first_part", core::ExtensionSpread::FirstPart}}};

constexpr auto kGuessFields = [](auto& table, auto& guess) {
  table.usual("pass_spread_percent", guess.pass_spread_percent);
  table.usual("flip_spread_percent", guess.flip_spread_percent);
  table.unusual("pass_spread_units", guess.pass_spread_units);
  table.unusual("flip_spread_units", guess.flip_spread_units);
  table.usual("flip_minutes", guess.flip_minutes);
  table.usual("visit_pass_minutes", guess.visit_pass_minutes);
};

constexpr auto kPlanFields = [](auto& table, auto& plan) {
  table.word("order", kOrders, plan.order);
  table.usual("passes_per_level", plan.passes_per_level);
  table.usual("rounds", plan.rounds);
  table.usual("passes_per_visit", plan.passes_per_visit);
  table.usual("warm_ups", plan.warm_ups);
  table.usual("time_limit_s", plan.time_limit_s);
  table.usual("settle_s", plan.settle_s);
  table.usual("settle_to_c", plan.settle_to_c);
  table.usual("most_settle_s", plan.most_settle_s);
  table.usual("quiet_wait_s", plan.quiet_wait_s);
  table.usual("retries", plan.retries);
  table.usual("most_failures_in_a_row", plan.most_failures_in_a_row);
  table.usual("is_sealed", plan.is_sealed);
  table.unusual("seed", plan.seed);
  table.unusual("grouped_by", plan.grouped_by);
  table.unusualWord("planned_for", kPlannedFor, plan.planned_for);
  table.alsoKnown({"drawn"});  // its rounds name the study's configurations
  table.unusual("looks", plan.looks);
  table.unusualWord("look_price", kLookPrices, plan.look_price);
  table.unusual("one_way", plan.is_one_way);
  table.unusualWord("spread", kSpreads, plan.spread);
  table.unusual("extension_rounds", plan.extension_rounds);
  table.unusualWord("extension_spread", kExtensionSpreads, plan.extension_spread);
  table.unusual("second_part_rounds", plan.second_part_rounds);
  table.part("guess", kGuessFields, plan.guess);
};

std::optional<core::ConfigurationId> configurationFrom(const json& value, const core::Study& study) {
  const std::size_t count = study.configurationCount();
  if (value.is_number_unsigned() && value.get<std::uint64_t>() < count)
    return core::configurationAt(value.get<std::uint64_t>());
  if (value.is_string()) return core::findConfiguration(study, value.get<std::string>());
  return std::nullopt;
}

// Of a pair a word may say what a round begins with.
std::optional<core::RoundOrder> roundFrom(const json& value, const core::Study& study) {
  if (value == "baseline") return core::pairRounds({core::ConfigurationId::Baseline}).front();
  if (value == "changed") return core::pairRounds({core::ConfigurationId::Changed}).front();
  if (!value.is_array()) return std::nullopt;
  core::RoundOrder round;
  for (const json& one : value) {
    const auto configuration = configurationFrom(one, study);
    if (!configuration) return std::nullopt;
    round.push_back(*configuration);
  }
  return round;
}

void readDrawn(const json& drawn, const core::Study& study, core::Plan& plan, std::optional<Error>& error) {
  if (!drawn.is_array()) {
    if (!error) error = Error{ErrorKind::Malformed, "a list of rounds is expected here", "plan.drawn", "Leave it out"};
    return;
  }
  for (std::size_t i = 0; i < drawn.size(); ++i) {
    if (auto round = roundFrom(drawn[i], study))
      plan.drawn.push_back(*std::move(round));
    else if (!error)
      error = Error{ErrorKind::OutOfRange, "this is not an order of the study's configurations",
                    "plan.drawn[" + std::to_string(i) + "]", "List their names or numbers, the first is 0"};
  }
}

}  // namespace

core::Plan readPlan(const json& object, const core::Study& study, std::optional<Error>& error) {
  core::Plan plan;
  readFields(object, "plan", error, kPlanFields, plan);
  if (const auto drawn = object.find("drawn"); drawn != object.end()) readDrawn(*drawn, study, plan, error);
  // The order that was drawn is what counts; where a design leaves it out, it is drawn here, once.
  if (plan.order == core::Order::BalancedShuffle && plan.drawn.empty() && plan.rounds > 0 && plan.rounds <= 500)
    plan.drawn = core::drawRoundsOf(study, plan, plan.rounds, plan.seed);
  return plan;
}

json planJson(const core::Plan& plan) {
  json object = writeFields(kPlanFields, plan);
  if (plan.order != core::Order::BalancedShuffle) return object;
  object["drawn"] = json::array();
  for (const core::RoundOrder& round : plan.drawn) {
    json places = json::array();
    for (const core::ConfigurationId one : round) places.push_back(core::placeOf(one));
    object["drawn"].push_back(std::move(places));
  }
  return object;
}

}  // namespace store
