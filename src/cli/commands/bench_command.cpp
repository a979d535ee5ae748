#include <algorithm>

#include <fmt/format.h>

#include "bench/capture.h"
#include "bench/local_bench.h"
#include "cli/commands.h"
#include "cli/commands/bench_json.h"
#include "cli/commands/far.h"
#include "core/machine/device_path.h"
#include "core/machine/difference_sentences.h"
#include "core/machine/memory_layout.h"
#include "core/study/reach.h"
#include "session/user/user_files.h"
#include "store/files/regular_file.h"
#include "store/json/capture_json.h"
#include "store/json/json_text.h"

namespace cli {
namespace {

using core::Error;
using core::ErrorKind;
using json = nlohmann::ordered_json;

core::Result<core::Capture> captureOf(const CaptureOptions& options) {
  if (!options.root.empty() && !bench::LocalBench(options.root).realPath("/").ok())
    return Error{ErrorKind::Missing, "there is no such folder", options.root,
                 "Name a folder that holds proc and sys of a machine"};
  bench::LocalBench bench(options.root);
  if (options.root_facts.empty()) {
    const auto files = session::UserFiles::ofThisUser();
    if (!files) return files.error();
    const auto usual = bench::WithRootFacts::open(bench, files->root_facts);
    return usual && options.root.empty() ? bench::captureBench(*usual) : bench::captureBench(bench);
  }
  const auto with = bench::WithRootFacts::open(bench, options.root_facts);
  return with ? core::Result<core::Capture>(bench::captureBench(*with)) : with.error();
}

core::Result<core::Capture> captureReached(CaptureOptions options) {
  const auto reach = core::reachFrom(options.reach);
  if (!reach) return Error{reach.error().kind, reach.error().what, "--reach", reach.error().remedy};
  if (reach->by == core::Reach::By::Ssh) return farCapture({reach->to, options.ssh_config});
  if (reach->by == core::Reach::By::Elsewhere)
    return Error{ErrorKind::NotAllowed, "what a bench elsewhere says about itself is captured there", "--reach",
                 "Run iron-lever-cli capture at it"};
  if (reach->by == core::Reach::By::Folder) options.root = reach->to;
  return captureOf(options);
}

void printForReading(const core::Capture& capture, std::ostream& out) {
  for (const core::Fact& fact : capture.facts)
    out << fact.name << ": "
        << (fact.isRead() ? fact.shown() : std::string(core::factStatusName(fact.status)) + ": " + fact.why) << '\n';
  out << fmt::format("{} facts.\n", capture.facts.size());
  const core::MemoryRating rating = core::memoryRating(capture);
  for (const auto* remarks : {&rating.above, &rating.below})
    for (const std::string& remark : *remarks) out << "Note: " << remark << ".\n";
  const bool is_denied = std::any_of(capture.facts.begin(), capture.facts.end(),
                                     [](const core::Fact& fact) { return fact.status == core::FactStatus::Denied; });
  if (is_denied)
    out << "Some facts need root: run 'sudo iron-lever-root-facts' once in this boot, then capture again.\n";
  if (capture.is_virtual) out << "This is a virtual machine: links, memory and firmware are not the hardware's.\n";
}

core::Result<core::Capture> readCapture(const std::string& path) {
  constexpr std::uintmax_t kLargest = 64 << 20;
  auto text = store::contentsOf(path, kLargest);
  if (!text && text.error().kind == ErrorKind::Missing)
    return Error{ErrorKind::Missing, "there is no such file", path, "Make it with: iron-lever-cli capture --json"};
  if (!text) return text.error();
  return store::captureFromJson(*text, path);
}

// "gen4" of "/tmp/gen4.json": how a person calls the capture.
std::string stemOf(const std::string& path) {
  const std::string name = path.substr(path.rfind('/') + 1);
  return name.substr(0, name.rfind('.'));
}

void printForReading(const core::Comparison& comparison, std::ostream& out) {
  const auto group = [&](const char* title, const std::vector<core::Difference>& differences) {
    if (differences.empty()) return;
    out << title << '\n';
    for (const std::string& sentence : core::differenceSentences(differences)) out << "  " << sentence << '\n';
  };
  group("Meant to change:", comparison.meant);
  group("Comes along:", comparison.comes_along);
  group("Must not change:", comparison.must_not);
  group("Held equal, and not:", comparison.held);
  group("Evidence, not held against the pair:", comparison.evidence);
  if (!comparison.unread.empty()) out << "Could not be read:\n";
  for (const core::Unverified& one : comparison.unread) out << "  " << one.field << ": " << one.why << '\n';
  out << fmt::format("{} settings are equal.\n", comparison.unchanged.size());
  out << "The variable: " << core::movedName(comparison.moved) << ".\n";
  if (!comparison.reason.empty()) out << comparison.reason << ".\n";
}

}  // namespace

core::Status captureCommand(const CaptureOptions& options, std::ostream& out) {
  const auto capture = options.reach.empty() ? captureOf(options) : captureReached(options);
  if (!capture) return capture.error();
  const std::string device = options.device.empty() ? core::likelyGraphicsDevice(*capture) : options.device;
  if (!device.empty() && capture->text("pci/" + device + "/vendor").empty())
    return Error{ErrorKind::Missing, "this machine has no PCI device " + device, "--device",
                 "List them with: iron-lever-cli capture"};
  if (!options.as_json) {
    printForReading(*capture, out);
    return core::Done{};
  }
  json object = json::parse(store::captureToJson(*capture));
  object["facts"] = factsJson(*capture, device);
  out << store::jsonText(object, 1) << '\n';
  return core::Done{};
}

core::Status diffCommand(const DiffOptions& options, std::ostream& out) {
  const auto baseline = readCapture(options.baseline_path);
  if (!baseline) return baseline.error();
  const auto changed = readCapture(options.changed_path);
  if (!changed) return changed.error();
  core::ComparisonOrder order{core::findVariableKind(options.kind), options.device, options.fields,
                              stemOf(options.baseline_path), stemOf(options.changed_path)};
  if (!order.kind) {
    std::string known;
    for (const core::VariableKind& one : core::variableKinds())
      known += (known.empty() ? "" : ", ") + std::string(one.id);
    return Error{ErrorKind::Missing, "there is no kind of variable '" + options.kind + "'", "--variable",
                 "Use one of " + known};
  }
  if (order.baseline_name == order.changed_name) {
    order.baseline_name = "baseline";
    order.changed_name = "changed";
  }
  if (order.device.empty()) order.device = core::likelyGraphicsDevice(*baseline);
  const core::Comparison comparison = core::compareCaptures(*baseline, *changed, order);
  if (options.as_json)
    out << store::jsonText(comparisonJson(comparison, order), 1) << '\n';
  else
    printForReading(comparison, out);
  return core::Done{};
}

}  // namespace cli
