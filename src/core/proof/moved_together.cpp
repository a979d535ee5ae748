#include "core/proof/moved_together.h"

#include <algorithm>
#include <tuple>

#include "core/machine/device_path.h"
#include "core/machine/variable_kind.h"

namespace core {
namespace {

// What a variable may move, as patterns with their places filled in.
std::vector<std::string> mayMove(const Variable& variable, const Capture& capture) {
  const std::string device = variable.device.empty() ? likelyGraphicsDevice(capture) : variable.device;
  const DevicePath path = devicePath(capture, device);
  std::vector<std::string> patterns;
  const auto place = [&](std::string_view pattern) {
    for (std::string& one : placedPatterns(pattern, device, path)) patterns.push_back(std::move(one));
  };
  for (const std::string& field : variable.fields) place(field);
  if (const VariableKind* kind = findVariableKind(variable.kind))
    for (const auto* list : {&kind->must_change, &kind->any_of, &kind->comes_along, &kind->itself})
      for (const std::string_view pattern : *list) place(pattern);
  return patterns;
}

// The step as if that variable alone were in question: what the others may move is released.
Study aboutOne(const Study& study, PairOf pair, std::size_t one, std::span<const std::size_t> moved,
               const Record& record) {
  Study two = pairStudyOf(study, pair, one);
  if (record.captures.empty()) return two;
  for (const std::size_t other : moved) {
    if (other == one) continue;
    for (const std::string& pattern : mayMove(study.variables[other], record.captures.front().capture)) {
      two.held.push_back(pattern);
      two.released[pattern] = study.variables[other].name + " moves in the same step";
    }
  }
  return two;
}

bool contains(const std::vector<Difference>& list, const std::string& field) {
  return std::any_of(list.begin(), list.end(), [&](const Difference& one) { return one.field == field; });
}

void addMissing(std::vector<Difference>& to, const std::vector<Difference>& from) {
  for (const Difference& one : from)
    if (!contains(to, one.field)) to.push_back(one);
}

void add(Comparison& to, const Comparison& from) {
  addMissing(to.meant, from.meant);
  addMissing(to.must_not, from.must_not);
  addMissing(to.held, from.held);
  std::erase_if(to.comes_along, [&](const Difference& one) { return contains(to.meant, one.field); });
  for (Difference& one : to.comes_along)
    for (const Difference& other : from.comes_along)
      if (one.field == other.field) one.is_setting_itself |= other.is_setting_itself;
  const bool came_along = std::any_of(to.comes_along.begin(), to.comes_along.end(),
                                      [](const Difference& one) { return !one.is_setting_itself; });
  to.only_variable_changed = to.must_not.empty() && to.held.empty() && !came_along;
}

void add(BenchProof& to, const BenchProof& from) {
  to.is_declared &= from.is_declared;
  to.are_levels_swapped |= from.are_levels_swapped;
  if (to.names_disagree.empty()) to.names_disagree = from.names_disagree;
  if (to.other_neck.empty()) to.other_neck = from.other_neck;
  to.measured.insert(to.measured.end(), from.measured.begin(), from.measured.end());
  for (const MissedFlip& flip : from.missed_flips)
    if (std::none_of(to.missed_flips.begin(), to.missed_flips.end(),
                     [&](const MissedFlip& one) { return one.visit_id == flip.visit_id; }))
      to.missed_flips.push_back(flip);
  for (std::size_t i = 0; i < std::min(to.visits.size(), from.visits.size()); ++i)
    for (auto text : {&VisitProof::not_its_name, &VisitProof::sagged, &VisitProof::too_much})
      if ((to.visits[i].*text).empty()) to.visits[i].*text = from.visits[i].*text;
  if (to.levels && from.levels) add(*to.levels, *from.levels);
}

// What speaks most against the step comes first.
auto standing(const BenchProof& proof) {
  const auto rank = [&] {
    switch (proof.verdict) {
      case ProofVerdict::DidNotMove: return 0;
      case ProofVerdict::MovedElsewhere: return 1;
      case ProofVerdict::CannotTell: return 2;
      case ProofVerdict::MovedAsDeclared: break;
    }
    return 3;
  }();
  return std::tuple(rank, proof.levels && proof.levels->isValidPair());
}

}  // namespace

BenchProof proveTogether(const Study& study, const Record& record, PairOf pair, std::span<const std::size_t> moved) {
  std::vector<BenchProof> proofs;
  for (const std::size_t one : moved) proofs.push_back(proveBench(aboutOne(study, pair, one, moved, record), record));
  std::stable_sort(proofs.begin(), proofs.end(),
                   [](const BenchProof& a, const BenchProof& b) { return standing(a) < standing(b); });
  BenchProof together = std::move(proofs.front());
  for (std::size_t i = 1; i < proofs.size(); ++i) add(together, proofs[i]);
  return together;
}

}  // namespace core
