#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/findings/findings.h"
#include "core/proof/proof.h"

namespace core {

/// How much a doubt weighs: a stop forbids the claim, a caution qualifies it, a note informs.
enum class DoubtRank { Stop, Caution, Note };
[[nodiscard]] const char* doubtRankName(DoubtRank rank);

/// Where a doubt is to be looked at.
enum class Place { Question, Bench, RunSheet, Passes, Findings, Report };

/// Something that could make the claim wrong, as a sentence.
struct Doubt {
  std::string id;  ///< stable, e.g. "thin_low/Ring pass, 4K dome"; acceptances refer to it
  DoubtRank rank = DoubtRank::Note;
  std::string sentence;
  std::string remedy;
  Place place = Place::Findings;
  std::optional<std::size_t> case_index;
  std::optional<std::string> accepted_because;  ///< a person's reason; an accepted doubt no longer counts as open
};

/// All doubts about a study, worst first, with the reasons for which people accepted them; `of_passes` are those that
/// core::passDoubts found.
[[nodiscard]] std::vector<Doubt> doubtsOf(const Study& study, const Findings& findings, const Record& record = {},
                                          const BenchProof& proof = {}, std::vector<Doubt> of_passes = {});

}  // namespace core
