#include "core/beside/same_question.h"

#include <algorithm>
#include <cmath>
#include <map>

#include <fmt/format.h>

#include "core/beside/level_means.h"
#include "core/estimate/study_difference.h"
#include "core/findings/judged_claim.h"
#include "core/findings/thresholds.h"

namespace core {
namespace {

using Matched = std::map<std::string, std::string>;

std::string titleIn(const Case& one, const Matched& matched) {
  const auto known = matched.find(one.title());
  return known == matched.end() ? one.title() : known->second;
}

std::optional<std::size_t> caseCalled(const Study& study, const std::string& title, const Matched& matched) {
  for (std::size_t i = 0; i < study.cases.size(); ++i)
    if (titleIn(study.cases[i], matched) == title) return i;
  return std::nullopt;
}

std::vector<std::string> titlesOf(std::span<const StudyAside> studies, const Matched& matched) {
  std::vector<std::string> titles;
  for (const StudyAside& one : studies)
    for (const Case& a_case : one.study->cases)
      if (const std::string title = titleIn(a_case, matched);
          std::find(titles.begin(), titles.end(), title) == titles.end())
        titles.push_back(title);
  return titles;
}

// What the first study is about, by the names of its two configurations: another may ask it among others.
struct Asked {
  std::string from;
  std::string to;
};
Asked askedBy(const StudyAside& first) {
  const PairOf pair = headlinePair(*first.study);
  return {first.study->nameOf(pair.from), first.study->nameOf(pair.to)};
}

// Why a study does not ask the same as the first; empty where it does.
std::string asksOtherwise(const StudyAside& first, const StudyAside& other, const Asked& asked) {
  const Variable& ours = first.study->variable();
  const Variable& theirs = other.study->variable();
  const bool is_telling = !ours.kind.empty() && ours.kind != "other";  // else the name alone says what moves
  const bool is_same = ours.name == theirs.name || (is_telling && ours.kind == theirs.kind);
  if (!is_same) return fmt::format("{} moves the {}, {} the {}", first.name, ours.name, other.name, theirs.name);
  const auto& all = other.judgement->shape.asked;
  const bool is_asked = std::any_of(all.begin(), all.end(), [&](const AskedContrast& one) {
    return one.pair && other.study->nameOf(one.pair->from) == asked.from &&
           other.study->nameOf(one.pair->to) == asked.to;
  });
  return is_asked ? std::string()
                  : fmt::format("{} does not ask what {} brings over {}", other.name, asked.to, asked.from);
}

// That contrast of a case, or of the suite; nothing of a case without one.
const ContrastFinding* aboutTheSame(const StudyAside& one, const Asked& asked, std::optional<std::size_t> case_index) {
  const ShapeFindings& shape = one.judgement->shape;
  for (std::size_t i = 0; i < shape.asked.size(); ++i) {
    const auto& pair = shape.asked[i].pair;
    if (!pair || one.study->nameOf(pair->from) != asked.from || one.study->nameOf(pair->to) != asked.to) continue;
    if (const ContrastFinding* found = shape.find(i, case_index)) return found;
  }
  return nullptr;
}

// A suite is on the scale of improvements; a case is on that of its metric.
EffectAside effectOf(std::size_t study, const StudyAside& one, const ContrastFinding* found) {
  EffectAside effect{study, {}, {}, false};
  if (!found || !found->is_log) return effect;
  const Direction direction =
      found->case_index ? one.study->cases[*found->case_index].metric.direction : Direction::HigherIsBetter;
  effect.improvement = found->improvement;
  effect.contrast = *onImprovementScale(found->contrast, direction);
  effect.is_flip_unseen = found->marks.holds_if_flips_add_nothing;
  return effect;
}

// Why the metrics of two cases are not the same thing; empty where they are.
std::string unlike(const Metric& first, const Metric& second) {
  if (first.unit != second.unit) return fmt::format("one is in {}, the other in {}", first.unit, second.unit);
  if (first.name != second.name) return fmt::format("one is the {}, the other the {}", first.name, second.name);
  if (first.direction != second.direction) return "of one more is better, of the other less";
  return {};
}

/// Fills the rows' last over first, and judges them together.
class Differences {
 public:
  Differences(std::span<const StudyAside> studies, double confidence) : studies_(studies), confidence_(confidence) {}

  void fill(RowAside& row, bool is_member) {
    if (!row.why_no_difference.empty()) return;
    const auto first = numbersOf(row.effects.front().contrast);
    const auto last = numbersOf(row.effects.back().contrast);
    if (!first || !last) {
      const StudyAside& who = studies_[first ? row.effects.back().study : row.effects.front().study];
      row.why_no_difference = fmt::format("{} has no interval of it", who.name);
      return;
    }
    const auto difference = studyDifference(*first, *last, confidence_);
    if (!difference) {
      row.why_no_difference = difference.error().sentence();
      return;
    }
    DifferenceAside& told = row.difference.emplace();
    const NoticeThreshold threshold = noticeThreshold(studies_.front().study->notice_threshold_percent);
    const bool is_complete = std::all_of(studies_.begin(), studies_.end(), [](const StudyAside& one) {
      return one.judgement->findings.done.is_first_done;
    });
    const bool is_flip_unseen = row.effects.front().is_flip_unseen || row.effects.back().is_flip_unseen;
    static_cast<Claimed&>(told) =
        claimedOf(*difference, threshold, {true, Scale::Ratio, 0, is_complete, is_flip_unseen});
    told.contrast = *difference;
    told.percent = percentChangeOf(*difference);
    if (is_member) members_.push_back(&row);
  }
  void adjust() const {
    std::vector<Claimed*> family;
    for (RowAside* one : members_) family.push_back(&*one->difference);
    adjustFamily(family, confidence_, "cases");
  }

 private:
  std::span<const StudyAside> studies_;
  double confidence_;
  std::vector<RowAside*> members_;
};

void judge(std::vector<RowAside>& rows, std::span<const StudyAside> studies) {
  Differences differences(studies, studies.front().study->confidence);
  for (RowAside& row : rows) differences.fill(row, row.title != kAllCases);
  differences.adjust();
}

// A row's studies, each with its case; who lacks it, or measures another thing, says why there is no difference.
std::vector<std::size_t> casesOf(RowAside& row, std::span<const StudyAside> studies, const Matched& matched) {
  std::vector<std::size_t> cases;
  for (std::size_t i = 0; i < studies.size(); ++i) {
    const auto found = caseCalled(*studies[i].study, row.title, matched);
    if (!found) {  // who stands between the two that are held against each other may lack it
      if (i == 0 || i + 1 == studies.size())
        row.why_no_difference = fmt::format("{} does not have it", studies[i].name);
      continue;
    }
    row.effects.push_back({i, {}, {}, false});
    cases.push_back(*found);
  }
  if (row.why_no_difference.empty())
    row.why_no_difference =
        unlike(studies.front().study->cases[cases.front()].metric, studies.back().study->cases[cases.back()].metric);
  return cases;
}

}  // namespace

Status checkAside(std::span<const StudyAside> studies) {
  if (studies.size() < 2)
    return Error{ErrorKind::TooFew, "one study has nothing beside it", "studies", "Name two studies or more"};
  if (const auto shared = sharingPasses(studies))
    return Error{
        ErrorKind::NotAllowed,
        fmt::format("these share passes: {} and {}", studies[shared->first].name, studies[shared->second].name),
        studies[shared->second].name, "One is a copy of the other: leave one of them out"};
  for (const StudyAside& one : studies)
    if (one.judgement->is_sealed)
      return Error{ErrorKind::NotAllowed, "its results are sealed until its plan is complete", one.name,
                   "Wait for the end of its plan, or open its results early with a reason"};
  return Done{};
}

std::vector<RowAside> sameQuestion(std::span<const StudyAside> studies, const Matched& matched) {
  std::vector<RowAside> rows;
  const Asked asked = askedBy(studies.front());
  const bool have_suites = std::all_of(studies.begin(), studies.end(), [&](const StudyAside& one) {
    return aboutTheSame(one, asked, std::nullopt) != nullptr;
  });
  if (have_suites) {
    RowAside& all = rows.emplace_back();
    all.title = kAllCases;
    for (std::size_t i = 0; i < studies.size(); ++i)
      all.effects.push_back(effectOf(i, studies[i], aboutTheSame(studies[i], asked, std::nullopt)));
    std::vector<std::string> members;
    for (const StudyAside& one : {studies.front(), studies.back()}) {
      std::string names;
      for (const std::size_t i : one.judgement->shape.suite_cases)
        names += titleIn(one.study->cases[i], matched) + "\n";
      members.push_back(std::move(names));
    }
    if (members.front() != members.back()) all.why_no_difference = "the suites are not made of the same cases";
  }
  for (const std::string& title : titlesOf(studies, matched)) {
    RowAside& row = rows.emplace_back();
    row.title = title;
    const std::vector<std::size_t> cases = casesOf(row, studies, matched);
    for (std::size_t i = 0; i < cases.size(); ++i) {
      const std::size_t study = row.effects[i].study;
      row.effects[i] = effectOf(study, studies[study], aboutTheSame(studies[study], asked, cases[i]));
    }
  }
  if (const std::string otherwise = asksOtherwise(studies.front(), studies.back(), asked); !otherwise.empty())
    for (RowAside& row : rows) row.why_no_difference = otherwise;
  judge(rows, studies);
  return rows;
}

Result<std::vector<RowAside>> levelsBetween(std::span<const StudyAside> studies, const std::string& level,
                                            const Matched& matched) {
  for (const StudyAside& one : studies)
    if (!findConfiguration(*one.study, level))
      return Error{ErrorKind::Missing, fmt::format("it has no level '{}'", level), one.name,
                   "Name a level that all of the studies have"};
  std::vector<LevelMeans> means;
  means.reserve(studies.size());
  for (const StudyAside& one : studies) means.emplace_back(one);
  std::vector<RowAside> rows;
  for (const std::string& title : titlesOf(studies, matched)) {
    RowAside& row = rows.emplace_back();
    row.title = title;
    const std::vector<std::size_t> cases = casesOf(row, studies, matched);
    for (std::size_t i = 0; i < cases.size(); ++i) {
      const std::size_t study = row.effects[i].study;
      row.effects[i].contrast = means[study].at(cases[i], *findConfiguration(*studies[study].study, level));
    }
  }
  judge(rows, studies);
  return rows;
}

}  // namespace core
