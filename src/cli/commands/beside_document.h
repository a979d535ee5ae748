#pragma once

#include <map>
#include <string>
#include <vector>

#include <nlohmann/json.hpp>

#include "core/values/result.h"

namespace cli {

/// A number from elsewhere: it stands beside, and is never pooled nor judged.
struct Reference {
  std::string name;
  std::string source;
  double value = 0;
  std::string unit;
};

/// What a person asked to have laid beside each other: NAME.beside.json. It names studies, and holds none of their
/// passes.
struct BesideDocument {
  std::vector<std::string> studies;  ///< paths, relative to the document where they can be
  std::string kind;                  ///< "same_question", "levels_between_benches", "table"
  std::string level;
  std::string rows;
  std::string columns;
  std::string title;                            ///< of the case that a table shows
  std::map<std::string, std::string> matched;   ///< a case's title in one study, and under which it stands
  std::map<std::string, std::string> accepted;  ///< held conditions that may differ in a table, and why
  std::vector<Reference> references;
  std::vector<std::string> remarks;
  std::map<std::string, std::string> digests;  ///< of the studies as they were when it was written, by path
};

/// Errors  Malformed for text that is no such document, with its place
[[nodiscard]] core::Result<BesideDocument> besideDocumentFrom(const std::string& text, const std::string& source_name);

/// What of a document is no part of the answer: its order, matches and remarks.
void addOrder(nlohmann::ordered_json& out, const BesideDocument& document);

/// "published; house magazine, May; 44; %". Errors  Malformed for anything else
[[nodiscard]] core::Result<Reference> referenceFrom(const std::string& text);

}  // namespace cli
