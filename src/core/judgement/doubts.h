#pragma once

#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "core/findings/findings.h"
#include "core/judgement/doubt_kinds.h"

namespace core {

/// Something that could make the claim wrong, as a sentence.
struct Doubt {
  const DoubtKind* kind = nullptr;
  std::string id;                    ///< stable, e.g. "thin_low/Ring pass, 4K dome"; acceptances refer to it
  DoubtRank rank = DoubtRank::Note;  ///< the kind's, where nothing makes it weigh otherwise
  std::string sentence;
  std::string remedy;
  Place place = Place::Findings;
  std::optional<std::size_t> case_index;
  std::optional<std::string> accepted_because;  ///< a person's reason; an accepted doubt no longer counts as open
};

/// What a doubt is about: behind its kind in its id, and the case where it is of one.
struct DoubtSubject {
  std::string name = {};
  std::optional<std::size_t> case_index = {};
};

/// Doubts as they are found, each of a kind.
class DoubtList {
 public:
  Doubt& add(const DoubtKind& kind, const DoubtSubject& about, std::string sentence, std::string remedy);
  Doubt& add(const DoubtKind& kind, std::string sentence, std::string remedy) {
    return add(kind, DoubtSubject(), std::move(sentence), std::move(remedy));
  }
  void addAll(std::vector<Doubt> doubts);
  [[nodiscard]] std::vector<Doubt> take() { return std::move(doubts_); }

 private:
  std::vector<Doubt> doubts_;
};

/// All doubts about a study, worst first, with the reasons for which people accepted them; `others` are those that were
/// found elsewhere: in the bench, in the passes, in the findings.
[[nodiscard]] std::vector<Doubt> doubtsOf(const Study& study, const Findings& findings, const Record& record = {},
                                          std::vector<Doubt> others = {});

}  // namespace core
