#pragma once

#include <string>

#include <nlohmann/json.hpp>

#include "core/beside/beside_order.h"
#include "core/values/result.h"

namespace store {

/// How such a document is called: NAME.beside.json.
inline constexpr const char* kBesideEnding = ".beside.json";

/// The order that a document holds. Errors  Malformed for text that is no such document, with its place
[[nodiscard]] core::Result<core::BesideOrder> besideDocumentFrom(const std::string& text,
                                                                 const std::string& source_name);

/// What of a document is no part of the answer: its order, matches and remarks.
void addOrder(nlohmann::ordered_json& out, const core::BesideOrder& order);

/// "published; house magazine, May; 44; %", and behind a further ; its day. Errors  Malformed for anything else
[[nodiscard]] core::Result<core::Reference> referenceFrom(const std::string& text);

}  // namespace store
