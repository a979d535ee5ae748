#include <fmt/format.h>
#include <fmt/ranges.h>

#include "cli/commands.h"
#include "cli/compute/compute_desk.h"
#include "core/estimate/wording.h"
#include "core/values/number_text.h"
#include "store/json/json_text.h"

namespace cli {
namespace {

using core::Error;
using core::ErrorKind;
using nlohmann::ordered_json;

// "generation=4", "GBps=7.88,15.75".
core::Result<core::DeskNumbers> numbersFrom(const std::vector<std::string>& given) {
  core::DeskNumbers numbers;
  for (const std::string& one : given) {
    const std::size_t equals = one.find('=');
    if (equals == std::string::npos)
      return Error{ErrorKind::Malformed, "'" + one + "' has no = between a name and a number", "desk",
                   "Write it as generation=4"};
    const std::string key = one.substr(0, equals);
    if (numbers.contains(key)) return Error{ErrorKind::Malformed, "it is said twice", key, "Say it once"};
    for (std::size_t from = equals + 1; from <= one.size();) {
      const std::size_t comma = std::min(one.find(',', from), one.size());
      const auto number = core::numberTyped(one.substr(from, comma - from));
      if (!number)
        return Error{ErrorKind::Malformed, "'" + one.substr(from, comma - from) + "' is not a number", key,
                     "Write it as 4 or 2.5, several with commas between"};
      numbers[key].push_back(*number);
      from = comma + 1;
    }
  }
  return numbers;
}

std::string inputText(const core::DeskInput& input) {
  std::string text = fmt::format("{}={}", input.key, input.is_list ? "NUMBER,NUMBER,…" : "NUMBER");
  if (!input.is_needed || input.usually) text = "[" + text + "]";
  text += fmt::format("  {}", input.title);
  if (!input.unit.empty()) text += fmt::format(", {}", input.unit);
  if (input.usually) text += fmt::format("; else {:g}", *input.usually);
  return text;
}

ordered_json askJson(const core::DeskAsk& ask) {
  ordered_json inputs = ordered_json::array();
  for (const core::DeskInput& one : ask.inputs)
    inputs.push_back({{"key", one.key},
                      {"unit", one.unit},
                      {"title", one.title},
                      {"needed", one.is_needed && !one.usually},
                      {"list", one.is_list},
                      {"usually", one.usually ? ordered_json(*one.usually) : ordered_json()}});
  return {{"ask", ask.id},
          {"title", ask.title},
          {"inputs", inputs},
          {"formula", ask.formula},
          {"does_not_say", ask.does_not_say}};
}

void printAsks(bool as_json, std::ostream& out) {
  ordered_json all = ordered_json::array();
  for (const core::DeskAsk& ask : core::deskAsks()) {
    if (as_json) {
      all.push_back(askJson(ask));
      continue;
    }
    out << ask.id << ": " << ask.title << '\n';
    for (const core::DeskInput& one : ask.inputs) out << "  " << inputText(one) << '\n';
  }
  if (as_json) out << store::jsonText(ordered_json{{"asks", all}}, 1) << '\n';
}

std::string valueText(const core::DeskValue& one) {
  const std::string unit = one.unit.empty() ? "" : " " + std::string(one.unit);
  if (const auto* number = std::get_if<std::optional<double>>(&one.value))
    return *number ? fmt::format("{:.6g}{}", **number, unit) : "not defined";
  if (const auto* list = std::get_if<std::vector<double>>(&one.value)) {
    std::vector<std::string> parts;
    for (const double number : *list) parts.push_back(fmt::format("{:.6g}{}", number, unit));
    return fmt::format("{}", fmt::join(parts, ", "));
  }
  const auto& links = std::get<std::vector<core::EqualLink>>(one.value);
  std::vector<std::string> parts;
  for (const core::EqualLink& link : links)
    parts.push_back(fmt::format("Gen {} x{} ({:.1f} % of it)", link.generation, link.lanes, 100 * link.ratio));
  return parts.empty() ? "none" : fmt::format("{}", fmt::join(parts, ", "));
}

}  // namespace

core::Status deskCommand(const DeskOptions& options, std::ostream& out) {
  if (options.ask.empty()) {
    printAsks(options.as_json, out);
    return core::Done{};
  }
  const auto numbers = numbersFrom(options.numbers);
  if (!numbers) return numbers.error();
  const auto answer = core::deskAnswer(options.ask, *numbers);
  if (!answer) return answer.error();
  const core::DeskAsk& ask = *core::findDeskAsk(options.ask);
  if (options.as_json) {
    ordered_json said = deskJson(*answer);
    said["formula"] = ask.formula;
    said["does_not_say"] = ask.does_not_say;
    out << store::jsonText(said, 1) << '\n';
    return core::Done{};
  }
  for (const core::DeskValue& one : *answer) out << valueText(one) << "  " << one.title << '\n';
  out << "By: " << ask.formula << '\n' << "Mind: " << ask.does_not_say << '\n';
  return core::Done{};
}

}  // namespace cli
