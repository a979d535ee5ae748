#include "simbench/bench_state.h"

#include <fcntl.h>
#include <unistd.h>

#include <filesystem>
#include <fstream>

#include <fmt/format.h>

#include "core/values/sealed_text.h"
#include "simbench/random.h"

namespace simbench {
namespace {

using core::Error;
using core::ErrorKind;
using nlohmann::json;

constexpr std::int64_t kRestartMs = 210'000;

std::string newBootId(const Truth& truth, std::int64_t boots) {
  const std::uint64_t high = mixed(truth.seed, static_cast<std::uint64_t>(boots), 0xB007);
  const std::uint64_t low = mixed(truth.seed, static_cast<std::uint64_t>(boots), 0x1D);
  return fmt::format("{:08x}-{:04x}-4{:03x}-a{:03x}-{:012x}", high >> 32, (high >> 16) & 0xffff, high & 0xfff,
                     low >> 52, low & 0xffffffffffff);
}

core::Result<json> readJson(const std::string& path) {
  std::ifstream file(path);
  if (!file)
    return Error{ErrorKind::Missing, "the file cannot be opened", path, "Make a bench with: iron-lever-simbench init"};
  json object = json::parse(file, nullptr, false);
  if (object.is_discarded())
    return Error{ErrorKind::Malformed, "this is not valid JSON", path, "Repair it, or make the bench anew"};
  return object;
}

// A truth that nobody is to read by accident is sealed: {"sealed": "..."}.
core::Result<json> readTruth(const std::string& path) {
  auto object = readJson(path);
  if (!object || !object->is_object() || !object->contains("sealed")) return object;
  const json& sealed = (*object)["sealed"];
  const auto text = sealed.is_string() ? core::unsealedText(sealed.get<std::string>()) : std::nullopt;
  json opened = text ? json::parse(*text, nullptr, false) : json();
  if (opened.is_object()) return opened;
  return Error{ErrorKind::Malformed, "the seal of this truth does not hold", path, "Make the bench anew"};
}

// Written beside the target, synced, then renamed over it.
core::Status writeWhole(const std::string& path, const std::string& text) {
  const std::string fresh = path + ".new";
  const int descriptor = ::open(fresh.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
  const bool written = descriptor >= 0 &&
                       ::write(descriptor, text.data(), text.size()) == static_cast<ssize_t>(text.size()) &&
                       ::fsync(descriptor) == 0;
  if (descriptor >= 0) ::close(descriptor);
  if (written && ::rename(fresh.c_str(), path.c_str()) == 0) return core::Done{};
  return Error{ErrorKind::Io, "the bench's state cannot be written", path, "Check the folder and the free space"};
}

// Replaced whole as well, so that nobody reads half a number; the state has it, so it need not be synced.
core::Status showClock(const BenchState& state) {
  const std::string path = state.folder + "/machine/clock_ahead_ms";
  std::ofstream(path + ".new") << state.clock_ahead_ms << '\n';
  if (std::rename((path + ".new").c_str(), path.c_str()) == 0) return core::Done{};
  return Error{ErrorKind::Io, "the bench's clock cannot be written", path, "Check the folder and the free space"};
}

std::string known(const auto& map) {
  std::string names;
  for (const auto& [name, value] : map) names += (names.empty() ? "" : ", ") + name;
  return names;
}

}  // namespace

Factors BenchState::factors() const {
  Factors product;
  const auto apply = [&](const Factors& one) {
    product.processor *= one.processor;
    product.graphics *= one.graphics;
    product.memory *= one.memory;
    product.link *= one.link;
  };
  for (const auto& [variable, level] : levels) {
    const Truth::Influence& influence = truth.variables.at(variable).levels.at(level);
    apply(influence.factors);
    if (has_companion) apply(influence.beside);
  }
  if (has_companion) apply(truth.beside);
  if (const auto accident = truth.accidents.find(boots); accident != truth.accidents.end())
    apply(accident->second.factors);
  return product;
}

Machine BenchState::machine() const {
  Machine shown;
  // Every override was tried when the truth was read.
  (void)overrideMachine(shown, truth.machine);
  for (const auto& [variable, level] : levels)
    (void)overrideMachine(shown, truth.variables.at(variable).levels.at(level).machine);
  if (const auto accident = truth.accidents.find(boots); accident != truth.accidents.end())
    (void)overrideMachine(shown, accident->second.machine);
  return shown;
}

core::Result<BenchState> initBench(const std::string& folder, const std::string& truth_path,
                                   std::int64_t clock_ahead_ms) {
  if (std::filesystem::exists(folder + "/state.json"))
    return Error{ErrorKind::NotAllowed, "the folder already holds a bench", folder, "Choose another folder"};
  const auto kept = readJson(truth_path);
  const auto object = readTruth(truth_path);
  if (!object) return object.error();
  auto truth = truthFromJson(*object, truth_path);
  if (!truth) return truth.error();
  BenchState state;
  state.folder = folder;
  state.truth = *std::move(truth);
  state.clock_ahead_ms = clock_ahead_ms;
  for (const auto& [name, variable] : state.truth.variables) state.levels[name] = variable.initial;
  state.boot_id = newBootId(state.truth, state.boots);
  std::error_code code;
  std::filesystem::create_directories(folder, code);
  if (auto written = writeWhole(folder + "/truth.json", kept->dump(2)); !written) return written.error();
  if (auto shown = saveMachine(state); !shown) return shown.error();
  if (auto saved = saveBench(state); !saved) return saved.error();
  return state;
}

core::Status saveMachine(const BenchState& state) {
  return writeMachine(state.machine(), state.boot_id, state.boots, state.folder + "/machine", state.clock_ahead_ms);
}

core::Result<BenchState> loadBench(const std::string& folder) {
  const auto truth_object = readTruth(folder + "/truth.json");
  if (!truth_object) return truth_object.error();
  auto truth = truthFromJson(*truth_object, folder + "/truth.json");
  if (!truth) return truth.error();
  const auto object = readJson(folder + "/state.json");
  if (!object) return object.error();
  BenchState state;
  state.folder = folder;
  state.truth = *std::move(truth);
  try {
    object->at("levels").get_to(state.levels);
    object->at("pending").get_to(state.pending);
    object->at("boot_id").get_to(state.boot_id);
    object->at("boots").get_to(state.boots);
    object->at("runs").get_to(state.runs);
    state.restarts = object->value("restarts", std::int64_t{0});
    object->at("warm_minutes").get_to(state.warm_minutes);
    state.clock_ahead_ms = object->value("clock_ahead_ms", std::int64_t{0});
  } catch (const json::exception& e) {
    return Error{ErrorKind::Malformed, std::string("the state does not fit: ") + e.what(), folder + "/state.json",
                 "Make the bench anew"};
  }
  return state;
}

core::Status saveBench(const BenchState& state) {
  const json object{{"levels", state.levels},
                    {"pending", state.pending},
                    {"boot_id", state.boot_id},
                    {"boots", state.boots},
                    {"runs", state.runs},
                    {"restarts", state.restarts},
                    {"warm_minutes", state.warm_minutes},
                    {"clock_ahead_ms", state.clock_ahead_ms}};
  if (auto written = writeWhole(state.folder + "/state.json", object.dump(2) + "\n"); !written) return written;
  return showClock(state);
}

core::Status setLevel(BenchState& state, const std::string& assignment) {
  const auto equals = assignment.find('=');
  if (equals == std::string::npos)
    return Error{ErrorKind::Malformed, "'" + assignment + "' is not VARIABLE=LEVEL", "set",
                 "Write for example memory_speed=6000"};
  const std::string name = assignment.substr(0, equals);
  const std::string level = assignment.substr(equals + 1);
  const auto variable = state.truth.variables.find(name);
  if (variable == state.truth.variables.end())
    return Error{ErrorKind::Missing, "this bench has no variable '" + name + "'", "set",
                 "It has: " + known(state.truth.variables)};
  if (!variable->second.levels.contains(level))
    return Error{ErrorKind::Missing, name + " has no level '" + level + "'", "set",
                 "It has: " + known(variable->second.levels)};
  if (variable->second.is_one_way && level == variable->second.initial && state.levels[name] != level)
    return Error{ErrorKind::NotAllowed, "the part is gone: " + name + " cannot go back to " + level, "set",
                 "What was to be measured before the swap is to be measured before it"};
  state.pending[name] = level;
  if (variable->second.is_swapped)
    for (const auto& [other, influence] : variable->second.levels)
      if (other != level) state.pending[name] = other;
  return core::Done{};
}

bool reboot(BenchState& state) {
  if (state.truth.lost_restarts.contains(++state.restarts)) return false;
  for (const auto& [name, level] : state.pending) state.levels[name] = level;
  state.pending.clear();
  ++state.boots;
  state.boot_id = newBootId(state.truth, state.boots);
  state.warm_minutes *= 0.6;  // a restart takes a few minutes in which the bench idles
  state.clock_ahead_ms += kRestartMs;
  return true;
}

}  // namespace simbench
