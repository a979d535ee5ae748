#include "store/logs/json_result.h"

#include <cmath>
#include <optional>
#include <sstream>

#include "store/json/json_text.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;
using Json = nlohmann::json;

// Where the object that opens at the begin of a text ends; nothing where it does not.
std::optional<std::string_view> objectAtBegin(std::string_view text) {
  std::size_t depth = 0;
  bool is_in_text = false;
  for (std::size_t at = 0; at < text.size(); ++at) {
    const char c = text[at];
    if (is_in_text && c == '\\') ++at;
    if (c == '"') is_in_text = !is_in_text;
    if (is_in_text) continue;
    if (c == '{') ++depth;
    if (c == '}' && --depth == 0) return text.substr(0, at + 1);
  }
  return std::nullopt;
}

Json parseBounded(std::string_view text) {
  return isBoundedJson(text) ? Json::parse(text, nullptr, false) : Json(Json::value_t::discarded);
}

// The object may be framed by other lines: take the first that a line opens. Some tries are enough for any program's
// banner, and keep the time in proportion to the text.
Json parseObject(std::string_view output) {
  constexpr int kMostTries = 50;
  Json parsed = parseBounded(output);
  int tries = 0;
  for (auto open = output.find('{'); parsed.is_discarded() && open != std::string_view::npos && tries < kMostTries;
       open = output.find("\n{", open), ++tries) {
    if (output[open] == '\n') ++open;
    if (const auto object = objectAtBegin(output.substr(open))) parsed = parseBounded(*object);
  }
  return parsed;
}

const Json* descend(const Json& node, const std::string& name) {
  if (node.is_object()) {
    const auto found = node.find(name);
    return found == node.end() ? nullptr : &*found;
  }
  const bool is_index = !name.empty() && name.size() < 9 && name.find_first_not_of("0123456789") == std::string::npos;
  if (!node.is_array() || !is_index) return nullptr;
  const auto index = static_cast<std::size_t>(std::stoul(name));
  return index < node.size() ? &node[index] : nullptr;
}

}  // namespace

core::Result<double> numberFromJson(std::string_view output, const std::string& field) {
  const Json parsed = parseObject(output);
  if (parsed.is_discarded())
    return Error{ErrorKind::Malformed, "the output holds no JSON object", "standard output",
                 "Check the command's options, or take the result from a frame log"};
  const Json* node = &parsed;
  std::istringstream path(field);
  for (std::string name; node && std::getline(path, name, '.');) node = descend(*node, name);
  if (!node)
    return Error{ErrorKind::Missing, "the output has no field '" + field + "'", "standard output",
                 "Enter the field as the program prints it, levels joined by dots"};
  if (!node->is_number() || !std::isfinite(node->get<double>()))
    return Error{ErrorKind::OutOfRange, "the field '" + field + "' is not a finite number", "standard output",
                 "Name a field that holds one number"};
  return node->get<double>();
}

core::Result<std::vector<core::Reading>> readingsFromJson(std::string_view output) {
  const Json parsed = parseObject(output);
  if (!parsed.is_object())
    return Error{ErrorKind::Malformed, "the output holds no JSON object", "standard output",
                 R"(Print {"read_GBps": {"values": [...]}} as the probe does)"};
  if (const auto software = parsed.find("is_software"); software != parsed.end() && *software == true)
    return Error{ErrorKind::NotAllowed, "the device that was measured is a program: no link is crossed",
                 "standard output", "Install the graphics driver's Vulkan part, and name the device with --pci"};
  std::vector<core::Reading> readings;
  for (const auto& [name, field] : parsed.items()) {
    const auto values = field.is_object() ? field.find("values") : field.end();
    if (!field.is_object() || values == field.end() || !values->is_array() || values->empty()) continue;
    core::Reading reading{name, {}};
    for (const Json& value : *values) {
      const double number = value.is_number() ? value.get<double>() : 0;
      if (!std::isfinite(number) || number <= 0)
        return Error{ErrorKind::OutOfRange, "a value of '" + name + "' is not a positive number", "standard output",
                     "Measure again; rates and times are above 0"};
      reading.measured.values.push_back(number);
    }
    readings.push_back(std::move(reading));
  }
  if (readings.empty())
    return Error{ErrorKind::Missing, "the output holds no measurement", "standard output",
                 R"(Print {"read_GBps": {"values": [...]}} as the probe does)"};
  return readings;
}

}  // namespace store
