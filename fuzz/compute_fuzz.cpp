// Calculations of the core on inputs whose answers are known, with some of their numbers changed: refused with a place,
// or answered with numbers that can be.
#include <cmath>
#include <filesystem>
#include <fstream>
#include <string>
#include <utility>
#include <vector>

#include "cli/compute/compute.h"
#include "fuzz/bytes.h"

using fuzz::demand;
using Json = nlohmann::json;

namespace {

std::vector<std::pair<std::string, Json>> knownInputs() {
  std::vector<std::pair<std::string, Json>> inputs;
  for (const auto& entry : std::filesystem::directory_iterator(IRON_LEVER_SOURCE "/tests/vectors")) {
    if (entry.path().extension() != ".json") continue;
    std::ifstream file(entry.path());
    const Json vectors = Json::parse(file);
    for (const Json& one : vectors.at("cases"))
      if (!one.at("input").contains("csv") && one.at("input").dump().size() < 4'000)
        inputs.emplace_back(vectors.at("group"), one.at("input"));
  }
  return inputs;
}

// A p is a share, and an interval's ends are in order.
void demandNumbers(const nlohmann::ordered_json& answer, const std::string& name) {
  if (answer.is_number()) {
    const double number = answer.get<double>();  // what is not finite is printed as null: not defined
    if (!std::isfinite(number)) return;
    if (name == "p" || name.starts_with("p_")) demand(number >= 0 && number <= 1);
  }
  if (!answer.is_structured()) return;
  for (const auto& [key, value] : answer.items()) demandNumbers(value, answer.is_object() ? key : name);
  if (!answer.is_object() || !answer.contains("lo") || !answer.contains("hi")) return;
  if (answer["lo"].is_number() && answer["hi"].is_number())
    demand(answer["lo"].get<double>() <= answer["hi"].get<double>());
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  static const auto inputs = knownInputs();
  fuzz::Bytes bytes(data, size);
  const auto& [group, input] = inputs[bytes.number(2) % inputs.size()];
  const auto answer = cli::compute(group, fuzz::changed(input, bytes));
  if (answer)
    demandNumbers(*answer, "");
  else
    demand(!answer.error().what.empty() && !answer.error().remedy.empty());
  return 0;
}
