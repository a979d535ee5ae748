#include <QDateTime>
#include <algorithm>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/commands/papers.h"
#include "core/machine/comparison.h"
#include "core/machine/difference_sentences.h"
#include "core/values/shown_text.h"
#include "session/cabinet/bench_questions.h"
#include "session/user/user_files.h"
#include "store/benches/bench_names.h"
#include "store/benches/bench_register.h"
#include "store/json/json_text.h"

namespace cli {
namespace {

using core::Error;
using core::ErrorKind;
using json = nlohmann::ordered_json;

std::string clockText(std::int64_t ms) {
  return QDateTime::fromMSecsSinceEpoch(ms, Qt::UTC).toString(Qt::ISODate).toStdString();
}

json historyJson(const std::vector<store::BenchRegister::Entry>& entries) {
  json stretches = json::array();
  for (std::size_t i = 0; i < entries.size(); ++i) {
    json changes = json::array();
    if (i > 0)
      changes =
          core::differenceSentences(core::compareCaptures(entries[i - 1].capture, entries[i].capture,
                                                          {core::findVariableKind("other"), "", {}, "before", "now"})
                                        .must_not);
    stretches.push_back({{"from", clockText(entries[i].capture.taken_ms)},
                         {"until", clockText(entries[i].until_ms)},
                         {"facts", entries[i].capture.facts.size()},
                         {"changes", changes}});
  }
  return stretches;
}

void printForReading(const json& stretches, std::ostream& out) {
  for (const json& stretch : stretches) {
    out << stretch["from"].get<std::string>() << " to " << stretch["until"].get<std::string>() << '\n';
    for (const json& change : stretch["changes"]) out << "  " << change.get<std::string>() << '\n';
  }
}

core::Status printRepeatability(const store::BenchRegister& benches, const std::string& bench, bool as_json,
                                std::ostream& out) {
  const auto known = benches.repeatability(bench);
  if (!known) return known.error();
  const auto all = core::pooledRepeatability(*known);
  json list = json::array();
  for (const core::BenchRepeatability& one : all) {
    list.push_back({{"case", one.title},
                    {"studies", one.studies},
                    {"passes", one.passes},
                    {"odd", one.odd},
                    {"spread_percent", one.spread_percent ? json(*one.spread_percent) : json()},
                    {"place", one.place > 0 ? json(one.place) : json()},
                    {"of", one.of > 0 ? json(one.of) : json()}});
    if (!as_json) out << one.title << ": " << one.text() << ".\n";
  }
  if (as_json) out << store::jsonText(list, 1) << '\n';
  if (!as_json && all.empty()) out << "No sheet has ended on this bench yet.\n";
  return core::Done{};
}

// Every question about two benches: what may have been renamed, and what may have been carried over.
core::Status listBenches(const session::UserFiles& files, bool as_json, std::ostream& out) {
  const auto all = store::BenchRegister(files.benches).benches();
  if (!all) return all.error();
  const auto questions = session::benchQuestions(files);
  if (!questions) return questions.error();
  if (!as_json) {
    if (all->empty()) out << "No bench is known yet: each visit of a study captures its bench.\n";
    for (const auto& one : *all) out << fmt::format("{}: last seen {}\n", one.name, clockText(one.last_ms));
    for (const session::BenchQuestion& one : *questions)
      out << fmt::format(
          "{}\n  yes: iron-lever-cli benches {} {} {}; no: --is-not in its place\n", one.text, core::shownWord(one.now),
          one.about == session::BenchQuestion::About::Name ? "--was" : "--part-from", core::shownWord(one.then));
    return core::Done{};
  }
  json list = json::array();
  for (const auto& one : *all) {
    json was = json::array();
    json parts = json::array();
    for (const session::BenchQuestion& asked : *questions)
      if (asked.now == one.name && asked.about == session::BenchQuestion::About::Name)
        was.push_back(asked.then);
      else if (asked.now == one.name)
        parts.push_back({{"part", asked.part}, {"bench", asked.then}, {"until", asked.until}});
    list.push_back({{"bench", one.name},
                    {"captures", one.captures},
                    {"first", clockText(one.first_ms)},
                    {"last", clockText(one.last_ms)},
                    {"perhaps_was", was},
                    {"perhaps_has_parts_of", parts}});
  }
  out << store::jsonText(list, 1) << '\n';
  return core::Done{};
}

// A name may be changed unasked: facts do not tell everything. A part is one that was asked about.
core::Status answerOf(const session::UserFiles& files, const BenchesOptions& options, std::ostream& out) {
  using About = session::BenchQuestion::About;
  const auto questions = session::benchQuestions(files);
  if (!questions) return questions.error();
  const bool is_of_part = !options.part_from.empty();
  const std::string& other = !options.was.empty() ? options.was : is_of_part ? options.part_from : options.is_not;
  int answered = 0;
  for (const session::BenchQuestion& one : *questions) {
    if (one.now != options.bench || one.then != other) continue;
    if (!options.was.empty() && one.about != About::Name) continue;
    if (is_of_part && one.about != About::Part) continue;
    if (auto done = session::answer(files, one, options.is_not.empty()); !done) return done;
    ++answered;
  }
  if (answered == 0 && options.was.empty())
    return Error{ErrorKind::Missing, fmt::format("nothing is asked about {} and {}", options.bench, other), other,
                 "List what is asked with: iron-lever-cli benches"};
  if (answered == 0)
    if (auto renamed = store::BenchNames(files.benches).rename(other, options.bench); !renamed) return renamed;
  if (!options.was.empty()) out << fmt::format("What is known of {} is known of {} now.\n", other, options.bench);
  return core::Done{};
}

}  // namespace

core::Status benchesCommand(const BenchesOptions& options, std::ostream& out) {
  const std::string& bench = options.bench;
  const bool as_json = options.as_json;
  const auto files = session::UserFiles::ofThisUser();
  if (!files) return files.error();
  store::BenchRegister benches(files->benches);
  const auto all = benches.benches();
  if (!all) return all.error();
  if (bench.empty()) return listBenches(*files, as_json, out);
  if (!options.was.empty() || !options.is_not.empty() || !options.part_from.empty())
    return answerOf(*files, options, out);
  // Papers may come first: whoever lends a part writes it down before the bench is measured.
  if (!options.added_kind.empty() || options.removed_paper > 0) return changePapers(benches, options);
  if (options.are_papers) return papersOfBench(benches, bench, as_json, out);
  if (std::none_of(all->begin(), all->end(), [&](const auto& one) { return one.name == bench; }))
    return Error{ErrorKind::Missing, "no bench of this name was worked on", bench,
                 "List them with: iron-lever-cli benches"};
  if (options.is_repeatability) return printRepeatability(benches, bench, as_json, out);
  const auto entries = benches.entries(bench);
  if (!entries) return entries.error();
  const json stretches = historyJson(*entries);
  if (as_json)
    out << store::jsonText(stretches, 1) << '\n';
  else
    printForReading(stretches, out);
  return core::Done{};
}

}  // namespace cli
