#pragma once

#include <map>
#include <string>
#include <string_view>
#include <vector>

namespace core {

/// What is asked of several studies.
enum class BesideKind { SameQuestion, LevelsBetweenBenches, Table };
/// As documents and scripts call it: "same_question", "levels_between_benches", "table".
[[nodiscard]] std::string_view besideKindName(BesideKind kind);

/// A number from elsewhere: it stands beside, and is never pooled nor judged.
struct Reference {
  std::string name;
  std::string source;
  double value = 0;
  std::string unit;
  std::string at = {};  ///< of its day, as its source writes it; empty: not told
};

/// What a person asks to have laid beside each other, and what they decided of it. It names studies, and holds none of
/// their passes.
struct BesideOrder {
  std::vector<std::string> studies;  ///< paths, relative to the document where they can be
  BesideKind kind = BesideKind::SameQuestion;
  std::string level;                                 ///< of each that is compared; of a table the one that is shown
  std::string rows;                                  ///< of a table: a fact that differs between the benches, or kBench
  std::string columns;                               ///< another one, or kLevel
  std::string title;                                 ///< of the case that a table shows; empty: the first that all have
  std::map<std::string, std::string> matched = {};   ///< a case's title in one study, and under which it stands
  std::vector<std::string> meant = {};               ///< facts of the benches whose difference is what is asked about
  std::map<std::string, std::string> accepted = {};  ///< facts and held conditions that may differ as well, and why
  std::vector<Reference> references = {};
  std::vector<std::string> remarks = {};
  std::map<std::string, std::string> digests = {};     ///< of the studies as they were when it was written, by path
  std::map<std::string, std::string> identities = {};  ///< which studies they are, by path

  static constexpr const char* kBench = "bench";
  static constexpr const char* kLevel = "level";
};

}  // namespace core
