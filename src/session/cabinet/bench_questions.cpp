#include "session/cabinet/bench_questions.h"

#include <algorithm>
#include <optional>
#include <set>

#include <fmt/format.h>

#include "core/machine/bench_likeness.h"
#include "core/values/utc_text.h"
#include "store/benches/bench_names.h"
#include "store/benches/bench_register.h"

namespace session {
namespace {

/// A bench as it was over time, the oldest entry first; never without one.
struct SeenBench {
  std::string name;
  std::vector<store::BenchRegister::Entry> entries;
  std::vector<std::vector<core::CarriedPart>> parts;  ///< of each entry

  [[nodiscard]] std::int64_t firstMs() const { return entries.front().capture.taken_ms; }
  [[nodiscard]] std::int64_t lastMs() const { return entries.back().until_ms; }
  [[nodiscard]] bool has(const core::CarriedPart& part, std::size_t entry) const {
    return std::find(parts[entry].begin(), parts[entry].end(), part) != parts[entry].end();
  }
  /// When it was seen with that part for the first time, and for the last; nothing where it never was.
  [[nodiscard]] std::optional<std::int64_t> firstWith(const core::CarriedPart& part) const {
    for (std::size_t i = 0; i < entries.size(); ++i)
      if (has(part, i)) return entries[i].capture.taken_ms;
    return std::nullopt;
  }
  [[nodiscard]] std::optional<std::int64_t> lastWith(const core::CarriedPart& part) const {
    for (std::size_t i = entries.size(); i-- > 0;)
      if (has(part, i)) return entries[i].until_ms;
    return std::nullopt;
  }
};

core::Result<std::vector<SeenBench>> seenBenches(const store::BenchRegister& benches) {
  const auto all = benches.benches();
  if (!all) return all.error();
  std::vector<SeenBench> seen;
  for (const store::BenchRegister::Bench& one : *all) {
    auto entries = benches.entries(one.name);
    if (!entries) return entries.error();
    if (entries->empty()) continue;
    SeenBench& bench = seen.emplace_back(SeenBench{one.name, *std::move(entries), {}});
    for (const store::BenchRegister::Entry& entry : bench.entries)
      bench.parts.push_back(core::carriedPartsOf(entry.capture));
  }
  return seen;
}

void askOfName(const SeenBench& then, const SeenBench& now, std::vector<BenchQuestion>& questions) {
  const core::Capture& newer = now.entries.front().capture;
  if (then.lastMs() >= now.firstMs() || !core::mayBeOneMachine(then.entries.back().capture, newer)) return;
  const std::string day = core::utcDayText(then.lastMs());
  questions.push_back({BenchQuestion::About::Name,
                       then.name,
                       now.name,
                       {},
                       day,
                       fmt::format("{} reads the board and the processor of {} ({}), which was last seen on {}: is it "
                                   "the same bench under another name?",
                                   now.name, then.name, core::machineText(newer), day)});
}

// It came up at the second bench after it was seen last at the first.
void askOfParts(const SeenBench& then, const SeenBench& now, std::vector<BenchQuestion>& questions) {
  for (const core::CarriedPart& part : now.parts.back()) {
    const auto came = now.firstWith(part);
    const auto left = then.lastWith(part);
    if (!came || !left || *left >= *came) continue;
    const std::string day = core::utcDayText(*left);
    questions.push_back({BenchQuestion::About::Part, then.name, now.name, part.title, day,
                         fmt::format("{} has a part of the model {} since {}; {} was last seen with one on {}: is it "
                                     "the same piece?",
                                     now.name, part.title, core::utcDayText(*came), then.name, day)});
  }
}

}  // namespace

core::Result<std::vector<BenchQuestion>> benchQuestions(const UserFiles& files) {
  const auto seen = seenBenches(store::BenchRegister(files.benches));
  if (!seen) return seen.error();
  const auto settled = store::BenchNames(files.benches).settled();
  if (!settled) return settled.error();
  std::vector<BenchQuestion> questions;
  for (const SeenBench& then : *seen)
    for (const SeenBench& now : *seen) {
      if (&then == &now) continue;
      std::vector<BenchQuestion> of_two;
      askOfName(then, now, of_two);
      if (of_two.empty()) askOfParts(then, now, of_two);  // what came with the whole bench was not carried
      for (BenchQuestion& one : of_two)
        if (!settled->contains(one.key())) questions.push_back(std::move(one));
    }
  return questions;
}

core::Status answer(const UserFiles& files, const BenchQuestion& question, bool is_the_same) {
  store::BenchNames names(files.benches);
  if (is_the_same && question.about == BenchQuestion::About::Name) {
    if (auto renamed = names.rename(question.then, question.now); !renamed) return renamed;
  } else if (is_the_same) {
    store::BenchRegister benches(files.benches);
    for (const auto& [bench, text] :
         {std::pair{question.now, fmt::format("the {} came from {}, where it was last seen on {}", question.part,
                                              question.then, question.until)},
          {question.then, fmt::format("the {} went to {}", question.part, question.now)}})
      if (auto added = benches.addPaper(bench, {0, "remark", text, {}}); !added) return added;
  }
  return names.settle(question.key());
}

}  // namespace session
