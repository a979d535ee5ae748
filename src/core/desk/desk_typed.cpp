#include "core/desk/desk_typed.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/machine/device_path.h"
#include "core/machine/links.h"
#include "core/machine/memory_layout.h"
#include "core/values/number_text.h"

namespace core {
namespace {

/// A number as it stands in a text: the word before it, and the unit behind it, both in small letters.
struct Typed {
  std::string before;
  double number = 0;
  std::string unit;
};

/// A unit by what it measures, and how many of that kind's first one it is.
struct Unit {
  std::string_view name;
  char measures;
  double times;
};
constexpr double kKi = 1024;
constexpr std::array<Unit, 42> kUnits{{
    {"b/s", 'r', 1},
    {"kb/s", 'r', 1e3},
    {"mb/s", 'r', 1e6},
    {"gb/s", 'r', 1e9},
    {"tb/s", 'r', 1e12},
    {"mib/s", 'r', kKi* kKi},
    {"gib/s", 'r', kKi* kKi* kKi},
    {"gbit/s", 'r', 1e9 / 8},
    {"mbit/s", 'r', 1e6 / 8},
    {"gbps", 'r', 1e9 / 8},
    {"byte", 'b', 1},
    {"bytes", 'b', 1},
    {"b", 'b', 1},
    {"kb", 'b', 1e3},
    {"mb", 'b', 1e6},
    {"gb", 'b', 1e9},
    {"tb", 'b', 1e12},
    {"kib", 'b', kKi},
    {"mib", 'b', kKi* kKi},
    {"gib", 'b', kKi* kKi* kKi},
    {"s", 't', 1},
    {"sec", 't', 1},
    {"seconds", 't', 1},
    {"ms", 't', 1e-3},
    {"us", 't', 1e-6},
    {"\u00b5s", 't', 1e-6},
    {"min", 't', 60},
    {"h", 't', 3600},
    {"hz", 'f', 1},
    {"khz", 'f', 1e3},
    {"mhz", 'f', 1e6},
    {"ghz", 'f', 1e9},
    {"fps", 'f', 1},
    {"w", 'w', 1},
    {"mw", 'w', 1e-3},
    {"kw", 'w', 1e3},
    {"%", '%', 1},
    {"mt/s", 'm', 1},
    {"gt/s", 'g', 1},
    {"bit", 'i', 1},
    {"bits", 'i', 1},
    {"px", 'p', 1},
}};

std::string small(std::string_view text) {
  std::string all(text);
  std::transform(all.begin(), all.end(), all.begin(),
                 [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  return all;
}

const Unit* unitCalled(std::string_view name) {
  const std::string wanted = small(name);
  const auto found = std::find_if(kUnits.begin(), kUnits.end(), [&](const Unit& one) { return one.name == wanted; });
  return found == kUnits.end() ? nullptr : &*found;
}

bool isDigit(char c) { return c >= '0' && c <= '9'; }
bool isBlank(char c) { return c == ' ' || c == '\t' || c == ';'; }

/// Takes a text apart into numbers, from its beginning to its end.
class Reader {
 public:
  explicit Reader(std::string_view text) : text_(text) {}

  /// Nothing for a text in which something is no number.
  std::optional<std::vector<Typed>> all() {
    std::vector<Typed> found;
    while (skipBlanks(), at_ < text_.size()) {
      Typed one;
      one.before = small(word());
      skipBlanks();
      const auto number = this->number();
      if (!number) return std::nullopt;
      one.number = *number;
      const std::size_t behind = at_;
      skipBlanks();
      one.unit = small(word());
      // "3840x2160", "8 GT/s x4": what stands before a number is none of the unit of the one before.
      if (one.unit == "x" || one.unit == "cl" || one.unit == "gen") {
        one.unit.clear();
        at_ = behind;
      }
      found.push_back(std::move(one));
    }
    if (found.empty()) return std::nullopt;
    return found;
  }

 private:
  void skipBlanks() {
    // A comma that a blank follows is between two numbers.
    while (at_ < text_.size() &&
           (isBlank(text_[at_]) || (text_[at_] == ',' && (at_ + 1 == text_.size() || isBlank(text_[at_ + 1])))))
      ++at_;
  }
  std::string_view word() {
    const std::size_t from = at_;
    if (text_.substr(at_).starts_with("\u00d7")) {  // the sign between two sides
      at_ += 2;
      return "x";
    }
    while (at_ < text_.size() && !isBlank(text_[at_]) && !isDigit(text_[at_]) && text_[at_] != '+' &&
           text_[at_] != '-' && text_[at_] != ',' && text_[at_] != '.')
      ++at_;
    // "DDR5-6000": the digit is none of the number.
    if (small(text_.substr(from, at_ - from)) == "ddr" && at_ + 1 < text_.size() && text_[at_ + 1] == '-') at_ += 2;
    return text_.substr(from, at_ - from);
  }
  std::optional<double> number() {
    const std::size_t from = at_;
    if (at_ < text_.size() && (text_[at_] == '+' || text_[at_] == '-')) ++at_;
    while (at_ < text_.size() &&
           (isDigit(text_[at_]) || (isPoint(text_[at_]) && at_ + 1 < text_.size() && isDigit(text_[at_ + 1]))))
      ++at_;
    if (at_ + 1 < text_.size() && small(text_.substr(at_, 1)) == "e" &&
        (isDigit(text_[at_ + 1]) || (at_ + 2 < text_.size() && isDigit(text_[at_ + 2]) &&
                                     !std::isalpha(static_cast<unsigned char>(text_[at_ + 1]))))) {
      at_ += 2;
      while (at_ < text_.size() && isDigit(text_[at_])) ++at_;
    }
    return numberTyped(std::string(text_.substr(from, at_ - from)));
  }
  static bool isPoint(char c) { return c == '.' || c == ','; }

  std::string_view text_;
  std::size_t at_ = 0;
};

constexpr std::string_view kMinus = "\u2212";  // as it is printed

std::string withPlainMinus(std::string_view text) {
  std::string plain(text);
  for (std::size_t at = 0; (at = plain.find(kMinus, at)) != std::string::npos; ++at)
    plain.replace(at, kMinus.size(), "-");
  return plain;
}

std::string shownNumber(double number, const std::string& unit) {
  const std::string text = fmt::format("{:.6g}{}", number, unit);
  return text.starts_with('-') ? std::string(kMinus) + text.substr(1) : text;
}

bool hasKey(const DeskAsk& ask, std::string_view key) {
  return std::any_of(ask.inputs.begin(), ask.inputs.end(), [&](const DeskInput& one) { return one.key == key; });
}

/// Another number of the ask that a text tells by its words; an empty key where it tells the one that was asked for.
struct Told {
  std::string_view key;
  double number = 0;
};
Told toldBy(const DeskAsk& ask, const Typed& one) {
  if (hasKey(ask, "generation")) {
    if (one.unit == "gt/s") return {"generation", static_cast<double>(pcieGeneration(one.number).value_or(0))};
    if (one.before == "gen" || one.before == "generation") return {"generation", one.number};
    if (one.before == "x" || one.unit == "lanes" || one.unit == "lane") return {"lanes", one.number};
  }
  if (hasKey(ask, "mts")) {
    constexpr double kTransfersAClock = 2;
    if (one.unit == "mhz") return {"mts", kTransfersAClock * one.number};
    if (one.unit == "mt/s" || one.before.starts_with("ddr")) return {"mts", one.number};
    if (one.before == "cl") return {"cl", one.number};
    if (one.unit == "bit" || one.unit == "bits") return {"bits", one.number};
  }
  if (hasKey(ask, "height") && one.before == "x") return {"height", one.number};
  return {{}, one.number};
}

Error malformed(const DeskInput& input, const std::string& what, const std::string& remedy) {
  return {ErrorKind::Malformed, what, std::string(input.title), remedy};
}

Result<double> inItsUnit(const DeskInput& input, const Typed& one) {
  if (one.unit.empty()) return one.number;
  const std::string example = input.unit.empty() ? "Write the number alone"
                                                 : fmt::format("Write it in {}, such as 4 {}", input.unit, input.unit);
  if (small(input.unit) == one.unit) return one.number;
  constexpr double kHundred = 100;
  if (input.key == "confidence" && one.unit == "%") return one.number / kHundred;
  if (input.unit == "GiB" && one.unit == "gb") return one.number;  // as memory is sold
  const Unit* said = unitCalled(one.unit);
  const Unit* wanted = unitCalled(input.unit);
  if (!said || (!input.unit.empty() && !wanted))
    return malformed(input, "'" + one.unit + "' is not a unit that is known here", example);
  if (input.unit.empty()) return one.number;  // a rate before and after, in whatever they are
  if (said->measures != wanted->measures)
    return malformed(input, fmt::format("'{}' measures something else than {}", one.unit, input.unit), example);
  return one.number * said->times / wanted->times;
}

}  // namespace

Result<DeskNumbers> deskTyped(const DeskAsk& ask, const DeskInput& input, std::string_view text) {
  const std::string plain = withPlainMinus(text);
  const auto all = Reader(plain).all();
  if (!all)
    return malformed(input, "'" + std::string(text) + "' is not a number",
                     input.is_list ? "Write numbers with blanks between: 7.88 15.75" : "Write it as 4 or 2.5");
  DeskNumbers numbers;
  for (const Typed& one : *all) {
    const Told told = toldBy(ask, one);
    const std::string key(told.key.empty() ? input.key : told.key);
    double number = told.number;
    if (told.key.empty()) {
      const auto converted = inItsUnit(input, one);
      if (!converted) return converted.error();
      number = *converted;
    }
    if (numbers.contains(key) && !(input.is_list && key == input.key))
      return malformed(input, "'" + std::string(text) + "' is more than one number", "Write one");
    numbers[key].push_back(number);
  }
  return numbers;
}

DeskNumbers deskFromBench(const DeskAsk& ask, const Capture& capture, const std::string& device) {
  DeskNumbers numbers;
  const DevicePath path = devicePath(capture, device.empty() ? likelyGraphicsDevice(capture) : device);
  if (const Hop* slot = path.slotHop(); slot && slot->now.lanes > 0 && hasKey(ask, "generation"))
    if (const auto generation = pcieGeneration(slot->now.gts)) {
      numbers["generation"] = {static_cast<double>(*generation)};
      numbers["lanes"] = {static_cast<double>(slot->now.lanes)};
    }
  if (const Hop* narrowest = path.narrowestHop())
    if (const auto rate = narrowest->rateGBps())
      for (const char* key : {"link_GBps", "GBps"})
        if (hasKey(ask, key) && ask.id != "step_gain") numbers[key] = {*rate};
  const MemoryLayout memory = memoryLayout(capture);
  if (memory.mts && hasKey(ask, "mts")) {
    numbers["mts"] = {*memory.mts};
    if (memory.bus_bits > 0) numbers["bits"] = {static_cast<double>(memory.bus_bits)};
  }
  double installed = 0;
  for (const MemoryLayout::Module& module : memory.modules) installed += module.size_bytes;
  if (installed > 0 && hasKey(ask, "installed_gib")) numbers["installed_gib"] = {installed / (kKi * kKi * kKi)};
  return numbers;
}

std::string deskValueText(const DeskValue& value) {
  const std::string unit = value.unit.empty() ? "" : " " + std::string(value.unit);
  if (const auto* number = std::get_if<std::optional<double>>(&value.value))
    return *number ? shownNumber(**number, unit) : "not defined";
  if (const auto* list = std::get_if<std::vector<double>>(&value.value)) {
    std::vector<std::string> parts;
    for (const double number : *list) parts.push_back(shownNumber(number, unit));
    return fmt::format("{}", fmt::join(parts, ", "));
  }
  std::vector<std::string> parts;
  for (const EqualLink& link : std::get<std::vector<EqualLink>>(value.value)) {
    constexpr double kPercent = 100;
    parts.push_back(fmt::format("Gen {} x{} ({:.1f} % of it)", link.generation, link.lanes, kPercent * link.ratio));
  }
  return parts.empty() ? "none" : fmt::format("{}", fmt::join(parts, ", "));
}

}  // namespace core
