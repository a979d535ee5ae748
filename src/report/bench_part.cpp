#include "report/bench_part.h"

#include <algorithm>
#include <array>
#include <set>

#include <fmt/format.h>

#include "core/machine/device_path.h"
#include "core/machine/difference_sentences.h"
#include "core/machine/fact_title.h"

namespace report {
namespace {

// What a reader wants to know of a bench, wherever it can be read; the whole captures are in the study file.
constexpr std::array kBenchFacts{"cpu/model",
                                 "cpu/cores",
                                 "cpu/logical",
                                 "cpu/smt",
                                 "cpu/governor",
                                 "cpu/boost",
                                 "cpu/no_turbo",
                                 "cpu/microcode",
                                 "memory/installed",
                                 "memory/total",
                                 "dmi/memory/*/configured_speed",
                                 "firmware/board",
                                 "firmware/version",
                                 "firmware/date",
                                 "kernel/osrelease",
                                 "pci/*/current_link_speed",
                                 "pci/*/current_link_width",
                                 "pci/*/product_name",
                                 "pci/*/aperture_size",
                                 "pci/*/vbios_version",
                                 "pci/*/driver",
                                 "pci/*/driver_version",
                                 "thunderbolt/*_speed",
                                 "thunderbolt/*_lanes",
                                 "thunderbolt/*/nvm_version",
                                 "graphics/*",
                                 "power/*/online",
                                 "stated/*"};

class BenchPart {
 public:
  BenchPart(Html& page, const Source& source) : page_(page), source_(source) {}

  // What moved as declared, what came along, what should not have, what could not be read: only what is so is said.
  void write() {
    page_.heading("The bench at both levels");
    const core::BenchProof& proof = source_.judgement.proof;
    if (!proof.levels) {
      page_.paragraph("It was not captured at both levels: that the variable moved rests on a person's word.");
      return saidAfterwards();
    }
    const core::Comparison& levels = *proof.levels;
    page_.paragraph("The " + study().variable + " " + core::proofVerdictName(proof.verdict) +
                    (proof.reason.empty() ? "." : ": " + proof.reason + "."));
    page_.sentences("Moved as declared:", core::differenceSentences(levels.meant));
    page_.sentences("Came along:", core::differenceSentences(levels.comes_along));
    std::vector<std::string> wrong = core::differenceSentences(levels.must_not);
    for (std::string& held : core::differenceSentences(levels.held)) wrong.push_back(std::move(held));
    for (const core::VisitProof& visit : proof.visits) visitSentences(wrong, visit);
    page_.sentences("Should not have moved, or not so:", wrong);
    std::vector<std::string> released;
    for (const auto& [id, reason] : study().released)
      released.push_back(core::factTitle(id) + " may differ: " + reason);
    page_.sentences("Not held equal, with the reason:", released);
    std::vector<std::string> unread;
    for (const core::Unverified& one : levels.unread) unread.push_back(core::factTitle(one.field) + ": " + one.why);
    page_.sentences("Could not be read, so nobody knows that it is equal:", unread);
    std::vector<std::string> measured;
    for (const core::MeasuredStep& step : proof.measured) measured.push_back(measuredSentence(step));
    page_.sentences("Measured at both levels:", measured);
    factTable(proof);
    saidAfterwards();
  }

 private:
  [[nodiscard]] const core::Study& study() const { return source_.study; }

  static void visitSentences(std::vector<std::string>& wrong, const core::VisitProof& visit) {
    const auto add = [&](const std::string& what) {
      wrong.push_back(fmt::format("visit {}: {}", visit.planned, what));
    };
    for (const auto* differences : {&visit.not_as_its_level, &visit.not_held})
      for (const std::string& sentence : core::differenceSentences(*differences)) add(sentence);
    for (const std::string& said : {visit.not_its_name, visit.rendered_elsewhere, visit.sagged, visit.errors})
      if (!said.empty()) add(said);
  }

  std::string measuredSentence(const core::MeasuredStep& step) const {
    return fmt::format("{}: {} at {}, {} at {}", step.sentence(), core::readingText(step.name, step.baseline),
                       study().levels[0].name, core::readingText(step.name, step.changed), study().levels[1].name);
  }

  void factTable(const core::BenchProof& proof) {
    const core::Capture* baseline = core::bestCaptureOf(proof.baseline_visit, source_.record.captures);
    const core::Capture* changed = core::bestCaptureOf(proof.changed_visit, source_.record.captures);
    if (!baseline || !changed) return;
    std::set<std::string> names;
    for (const core::Capture* one : {baseline, changed})
      for (const core::Fact& fact : one->facts)
        if (fact.isRead() && !fact.value.empty() && isWanted(fact.name, *one)) names.insert(fact.name);
    page_.raw("<table>\n");
    page_.row({"fact", study().levels[0].name, study().levels[1].name}, "th", 3);
    const auto shown = [](const core::Fact* fact) {
      const bool is_there = fact && fact->status != core::FactStatus::Absent;
      return !is_there ? "not there" : fact->isRead() ? fact->shown() : "not read";
    };
    std::set<std::vector<std::string>> written;  // modules that are alike are one row
    for (const std::string& name : names) {
      const std::vector<std::string> cells{core::factTitle(name), shown(baseline->find(name)),
                                           shown(changed->find(name))};
      if (written.insert(cells).second) page_.row(cells, "td", 3);
    }
    page_.raw("</table>\n");
  }

  // Of the many PCI devices only the one under test, and those on its way.
  [[nodiscard]] bool isWanted(const std::string& name, const core::Capture& capture) const {
    const bool is_kind_wanted = std::any_of(kBenchFacts.begin(), kBenchFacts.end(),
                                            [&](const char* pattern) { return core::matchesPattern(pattern, name); });
    if (!is_kind_wanted || !name.starts_with("pci/")) return is_kind_wanted;
    const std::string device = study().device.empty() ? core::likelyGraphicsDevice(capture) : study().device;
    const auto chain = core::devicePath(capture, device).chain;
    const std::string address = name.substr(4, name.find('/', 4) - 4);
    const bool is_link = name.find("/current_link_") != std::string::npos;
    return address == device || (is_link && std::find(chain.begin(), chain.end(), address) != chain.end());
  }

  // No capture holds it: it is said as what it is.
  void saidAfterwards() {
    std::vector<std::string> said;
    for (const core::Fact& fact : source_.record.stated_afterwards)
      said.push_back(fmt::format("{}: {}", core::factTitle(fact.name), fact.shown()));
    page_.sentences("Said afterwards, when the last visit was over:", said);
  }

  Html& page_;
  const Source& source_;
};

}  // namespace

void writeBench(Html& page, const Source& source) { BenchPart(page, source).write(); }

}  // namespace report
