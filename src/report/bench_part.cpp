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

  void write() {
    if (source_.study.shape == core::Shape::Pair) {
      page_.heading("The bench at both levels");
      step(source_.judgement.pair_study, source_.judgement.proof);
    } else {
      page_.heading("The bench, step by step");
      for (const core::StepProof& one : source_.judgement.steps) {
        const core::Study two = core::pairStudyOf(source_.study, one.pair);
        page_.paragraph(fmt::format("{} to {}", two.nameOf(core::ConfigurationId::Baseline),
                                    two.nameOf(core::ConfigurationId::Changed)),
                        "strong");
        step(two, one.proof);
      }
    }
    factTable();
    saidAfterwards();
  }

 private:
  [[nodiscard]] const core::Study& study() const { return source_.study; }

  // What moved as declared, what came along, what should not have, what could not be read: only what is so is said.
  void step(const core::Study& two, const core::BenchProof& proof) {
    if (!proof.levels)
      return page_.paragraph("It was not captured at both levels: that the variable moved rests on a person's word.");
    const core::Comparison& levels = *proof.levels;
    const bool is_open = proof.verdict == core::ProofVerdict::CannotTell;
    page_.paragraph((is_open ? "Whether the " + two.variable().name + " moved cannot be told"
                             : "The " + two.variable().name + " " + core::proofVerdictName(proof.verdict)) +
                    (proof.reason.empty() ? "." : ": " + proof.reason + "."));
    page_.sentences("Meant to change:", core::differenceSentences(levels.meant));
    page_.sentences("Comes along:", core::differenceSentences(levels.comes_along));
    std::vector<std::string> wrong = core::differenceSentences(levels.must_not);
    for (std::string& held : core::differenceSentences(levels.held)) wrong.push_back(std::move(held));
    for (const core::VisitProof& visit : proof.visits) visitSentences(wrong, visit);
    page_.sentences("Wrong at this bench:", wrong);
    std::vector<std::string> released;
    for (const auto& [id, reason] : study().released)
      released.push_back(core::factTitle(id) + " may differ: " + reason);
    page_.sentences("Not kept equal, with the reason:", released);
    std::vector<std::string> unread;
    for (const core::Unverified& one : levels.unread) unread.push_back(core::factTitle(one.field) + ": " + one.why);
    page_.sentences("Could not be read, so nobody knows that it is equal:", unread);
    std::vector<std::string> measured;
    for (const core::MeasuredStep& one : proof.measured) measured.push_back(measuredSentence(two, one));
    page_.sentences("Measured at both levels:", measured);
  }

  static void visitSentences(std::vector<std::string>& wrong, const core::VisitProof& visit) {
    const auto add = [&](const std::string& what) {
      wrong.push_back(fmt::format("visit {}: {}", visit.planned, what));
    };
    for (const auto* differences : {&visit.not_as_its_level, &visit.not_held})
      for (const std::string& sentence : core::differenceSentences(*differences)) add(sentence);
    for (const std::string& said : {visit.not_its_name, visit.rendered_elsewhere, visit.sagged, visit.errors})
      if (!said.empty()) add(said);
  }

  static std::string measuredSentence(const core::Study& two, const core::MeasuredStep& step) {
    return fmt::format("{}: {} at {}, {} at {}", step.sentence(), core::readingText(step.name, step.baseline),
                       two.nameOf(core::ConfigurationId::Baseline), core::readingText(step.name, step.changed),
                       two.nameOf(core::ConfigurationId::Changed));
  }

  // The visit that stands for each configuration: that of the proof, else the first that was captured.
  [[nodiscard]] std::vector<const core::Capture*> captures() const {
    std::vector<const core::Capture*> all;
    for (const core::ConfigurationId one : core::configurationsOf(study())) {
      std::int64_t visit = 0;
      for (const core::StepProof& step : source_.judgement.steps) {
        if (visit == 0 && step.pair.from == one) visit = step.proof.baseline_visit;
        if (visit == 0 && step.pair.to == one) visit = step.proof.changed_visit;
      }
      all.push_back(core::bestCaptureOf(visit, source_.record.captures));
    }
    return all;
  }

  void factTable() {
    const std::vector<const core::Capture*> all = captures();
    if (std::count(all.begin(), all.end(), nullptr) > 0) return;
    std::set<std::string> names;
    for (const core::Capture* one : all)
      for (const core::Fact& fact : one->facts)
        if (fact.isRead() && !fact.value.empty() && isWanted(fact.name, *one)) names.insert(fact.name);
    page_.raw("<table>\n");
    std::vector<std::string> head{"fact"};
    for (const core::ConfigurationId one : core::configurationsOf(study())) head.push_back(study().nameOf(one));
    page_.row(head, "th", head.size());
    const auto shown = [](const core::Fact* fact) {
      const bool is_there = fact && fact->status != core::FactStatus::Absent;
      return !is_there ? "not there" : fact->isRead() ? fact->shown() : "not read";
    };
    std::set<std::vector<std::string>> written;  // modules that are alike are one row
    for (const std::string& name : names) {
      std::vector<std::string> cells{core::factTitle(name)};
      for (const core::Capture* one : all) cells.push_back(shown(one->find(name)));
      if (written.insert(cells).second) page_.row(cells, "td", cells.size());
    }
    page_.raw("</table>\n");
  }

  // Of the many PCI devices only the one under test, and those on its way.
  [[nodiscard]] bool isWanted(const std::string& name, const core::Capture& capture) const {
    const bool is_kind_wanted = std::any_of(kBenchFacts.begin(), kBenchFacts.end(),
                                            [&](const char* pattern) { return core::matchesPattern(pattern, name); });
    if (!is_kind_wanted || !name.starts_with("pci/")) return is_kind_wanted;
    const std::string device =
        study().variable().device.empty() ? core::likelyGraphicsDevice(capture) : study().variable().device;
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
