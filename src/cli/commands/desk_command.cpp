#include <algorithm>

#include <fmt/format.h>

#include "cli/commands.h"
#include "cli/compute/compute_desk.h"
#include "core/desk/desk_typed.h"
#include "store/json/json_text.h"

namespace cli {
namespace {

using core::Error;
using core::ErrorKind;
using nlohmann::ordered_json;

// "generation=4", "GBps=7.88,15.75", "GBps=15750 MB/s".
core::Result<core::DeskNumbers> numbersFrom(const core::DeskAsk& ask, const std::vector<std::string>& given) {
  core::DeskNumbers numbers;
  for (const std::string& one : given) {
    const std::size_t equals = one.find('=');
    if (equals == std::string::npos)
      return Error{ErrorKind::Malformed, "'" + one + "' has no = between a name and a number", "desk",
                   "Write it as generation=4"};
    const std::string key = one.substr(0, equals);
    std::string text = one.substr(equals + 1);
    const auto input =
        std::find_if(ask.inputs.begin(), ask.inputs.end(), [&](const auto& it) { return it.key == key; });
    if (input == ask.inputs.end()) {
      numbers[key] = {0};  // the desk says that it does not take it
      continue;
    }
    if (input->is_list) std::replace(text.begin(), text.end(), ',', ' ');
    const auto typed = core::deskTyped(ask, *input, text);
    if (!typed) return Error{typed.error().kind, typed.error().what, key, typed.error().remedy};
    for (const auto& [told, values] : *typed)
      if (!numbers.emplace(told, values).second)
        return Error{ErrorKind::Malformed, "it is said twice", told, "Say it once"};
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

}  // namespace

core::Status deskCommand(const DeskOptions& options, std::ostream& out) {
  if (options.ask.empty()) {
    printAsks(options.as_json, out);
    return core::Done{};
  }
  const core::DeskAsk* known = core::findDeskAsk(options.ask);
  if (!known) return core::deskAnswer(options.ask, {}).error();
  const core::DeskAsk& ask = *known;
  const auto numbers = numbersFrom(ask, options.numbers);
  if (!numbers) return numbers.error();
  const auto answer = core::deskAnswer(options.ask, *numbers);
  if (!answer) return answer.error();
  if (options.as_json) {
    ordered_json said = deskJson(*answer);
    said["formula"] = ask.formula;
    said["does_not_say"] = ask.does_not_say;
    out << store::jsonText(said, 1) << '\n';
    return core::Done{};
  }
  for (const core::DeskValue& one : *answer) out << core::deskValueText(one) << "  " << one.title << '\n';
  out << "By: " << ask.formula << '\n' << "Mind: " << ask.does_not_say << '\n';
  return core::Done{};
}

}  // namespace cli
