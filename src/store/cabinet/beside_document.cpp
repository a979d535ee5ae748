#include "store/cabinet/beside_document.h"

#include <optional>

#include "core/values/number_text.h"

namespace store {

using core::Error;
using core::ErrorKind;

namespace {

std::string trimmed(const std::string& text) {
  const auto first = text.find_first_not_of(" \t");
  return first == std::string::npos ? "" : text.substr(first, text.find_last_not_of(" \t") - first + 1);
}

core::Reference referenceOf(const nlohmann::json& one) {
  return {one.at("name").get<std::string>(), one.at("source").get<std::string>(), one.at("value").get<double>(),
          one.at("unit").get<std::string>(), one.value("at", "")};
}

std::optional<core::BesideKind> kindCalled(const std::string& name) {
  for (const core::BesideKind kind :
       {core::BesideKind::SameQuestion, core::BesideKind::LevelsBetweenBenches, core::BesideKind::Table})
    if (name == core::besideKindName(kind)) return kind;
  return std::nullopt;
}

core::BesideOrder orderOf(const nlohmann::json& object) {
  core::BesideOrder document;
  for (const nlohmann::json& one : object.at("studies")) {
    document.studies.push_back(one.at("path").get<std::string>());
    document.digests[document.studies.back()] = one.value("sha256", "");
    document.identities[document.studies.back()] = one.value("identity", "");
  }
  const nlohmann::json order = object.value("order", nlohmann::json::object());
  document.level = order.value("level", "");
  document.rows = order.value("rows", "");
  document.columns = order.value("columns", "");
  document.title = order.value("case", "");
  document.meant = order.value("meant", std::vector<std::string>());
  document.accepted = order.value("accepted", std::map<std::string, std::string>());
  document.matched = object.value("matched", std::map<std::string, std::string>());
  document.remarks = object.value("remarks", std::vector<std::string>());
  for (const nlohmann::json& one : object.value("references", nlohmann::json::array()))
    document.references.push_back(referenceOf(one));
  return document;
}

}  // namespace

core::Result<core::BesideOrder> besideDocumentFrom(const std::string& text, const std::string& source_name) {
  try {
    const nlohmann::json object = nlohmann::json::parse(text);
    const auto kind = kindCalled(object.at("kind").get<std::string>());
    if (!kind)
      return Error{ErrorKind::Malformed, "its kind is none that is known", source_name,
                   "It is same_question, levels_between_benches or table"};
    core::BesideOrder order = orderOf(object);
    order.kind = *kind;
    return order;
  } catch (const nlohmann::json::exception& e) {
    return Error{ErrorKind::Malformed, std::string("this is not a list of studies beside each other: ") + e.what(),
                 source_name, "Write one with: iron-lever-cli beside A B --out NAME.beside.json"};
  }
}

void addOrder(nlohmann::ordered_json& out, const core::BesideOrder& document) {
  nlohmann::ordered_json order = nlohmann::ordered_json::object();
  const auto say = [&](const char* name, const std::string& text) {
    if (!text.empty()) order[name] = text;
  };
  say("level", document.level);
  say("rows", document.rows);
  say("columns", document.columns);
  say("case", document.title);
  if (!document.meant.empty()) order["meant"] = document.meant;
  if (!document.accepted.empty()) order["accepted"] = document.accepted;
  out["order"] = std::move(order);
  out["matched"] = document.matched;
  out["remarks"] = document.remarks;
}

core::Result<core::Reference> referenceFrom(const std::string& text) {
  std::vector<std::string> parts(1);
  for (const char c : text) {
    if (c == ';')
      parts.emplace_back();
    else
      parts.back() += c;
  }
  for (std::string& part : parts) part = trimmed(part);
  const auto value = parts.size() == 4 || parts.size() == 5 ? core::numberOf(parts[2]) : std::nullopt;
  if (!value || parts[0].empty() || parts[1].empty())
    return Error{ErrorKind::Malformed, "'" + text + "' is not a number from elsewhere", "--reference",
                 "Write NAME; SOURCE; NUMBER; UNIT; DAY, the day only where it is known, such as 'published; house "
                 "magazine, May; 44; %'"};
  return core::Reference{parts[0], parts[1], *value, parts[3], parts.size() == 5 ? parts[4] : ""};
}

}  // namespace store
