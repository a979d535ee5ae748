#pragma once

#include <algorithm>
#include <cstdint>
#include <limits>
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include <nlohmann/json.hpp>

#include "core/study/case.h"
#include "core/study/variable.h"
#include "core/values/result.h"

namespace store {

using DesignJson = nlohmann::ordered_json;  // keeps the order in which a person wrote the fields

/// Reads fields of one object and remembers the first thing that is wrong, so that a long list of fields reads as one.
class Fields {
 public:
  using json = DesignJson;

  Fields(const json& object, std::string where, std::optional<core::Error>& error)
      : object_(object), where_(std::move(where)), error_(error) {
    if (!object_.is_object())
      fail(core::ErrorKind::Malformed, "an object { } is expected here", where_, "See docs/study-format.md");
  }

  void allow(const std::vector<const char*>& names) {
    if (!object_.is_object()) return;
    for (const auto& [key, value] : object_.items())
      if (std::find(names.begin(), names.end(), std::string_view(key)) == names.end())
        fail(core::ErrorKind::Malformed, "the field '" + key + "' is not known here", path(key),
             "Check its spelling against docs/study-format.md");
  }

  template <class T>
  void optional(const char* name, T& target) {
    if (const json* value = find(name)) read(*value, name, target);
  }
  template <class T>
  void required(const char* name, T& target) {
    if (!find(name))
      fail(core::ErrorKind::Missing, std::string("the field '") + name + "' is missing", path(name), "Add it");
    else
      optional(name, target);
  }
  /// One of a few words, each with its value.
  template <class Words, class Enum>
  void choice(const char* name, const Words& words, Enum& target) {
    std::string word;
    optional(name, word);
    if (word.empty()) return;
    std::string allowed;
    for (const auto& [text, value] : words) {
      if (word == text) {
        target = value;
        return;
      }
      allowed += std::string(allowed.empty() ? "" : ", ") + "\"" + text + "\"";
    }
    fail(core::ErrorKind::OutOfRange, "'" + word + "' is not one of the choices", path(name), "Use one of " + allowed);
  }
  [[nodiscard]] const json* find(const char* name) const {
    if (!object_.is_object()) return nullptr;
    const auto found = object_.find(name);
    return found == object_.end() ? nullptr : &*found;
  }
  [[nodiscard]] std::string path(const std::string& name) const { return where_.empty() ? name : where_ + "." + name; }
  void fail(core::ErrorKind kind, std::string what, std::string where, std::string remedy) {
    if (!error_) error_ = core::Error{kind, std::move(what), std::move(where), std::move(remedy)};
  }

 private:
  // One that an int holds: a larger one would be taken for another number.
  static bool isWhole(const json& value) {
    if (!value.is_number_integer()) return false;
    if (value.is_number_unsigned()) return value.get<std::uint64_t>() <= std::numeric_limits<int>::max();
    return value.get<std::int64_t>() >= std::numeric_limits<int>::min();
  }
  void read(const json& value, const char* name, std::string& target) {
    if (value.is_string())
      target = value.get<std::string>();
    else
      fail(core::ErrorKind::Malformed, "a text is expected here", path(name), "Put it in quotes");
  }
  void read(const json& value, const char* name, double& target) {
    if (value.is_number())
      target = value.get<double>();
    else
      fail(core::ErrorKind::Malformed, "a number is expected here", path(name), "Write it without quotes");
  }
  void read(const json& value, const char* name, int& target) {
    if (isWhole(value))
      target = value.get<int>();
    else
      fail(core::ErrorKind::Malformed, "a whole number is expected here", path(name),
           "Write it without quotes or decimals");
  }
  void read(const json& value, const char* name, std::vector<int>& target) {
    if (value.is_array() && std::all_of(value.begin(), value.end(), isWhole))
      target = value.get<std::vector<int>>();
    else
      fail(core::ErrorKind::Malformed, "a list of whole numbers is expected here", path(name), "Write [4, 8]");
  }
  void read(const json& value, const char* name, bool& target) {
    if (value.is_boolean())
      target = value.get<bool>();
    else
      fail(core::ErrorKind::Malformed, "true or false is expected here", path(name), "Write it without quotes");
  }
  void read(const json& value, const char* name, core::Command& target) {
    const bool is_list =
        value.is_array() && std::all_of(value.begin(), value.end(), [](const json& v) { return v.is_string(); });
    if (is_list)
      target = value.get<core::Command>();
    else
      fail(core::ErrorKind::Malformed, "a list of words is expected here, never a shell line", path(name),
           R"(Write ["program", "argument", ...])");
  }
  void read(const json& value, const char* name, std::vector<std::pair<std::string, std::string>>& target) {
    if (!value.is_object())
      return fail(core::ErrorKind::Malformed, "an object of texts is expected here", path(name),
                  R"(Write {"NAME": "value"})");
    for (const auto& [key, text] : value.items()) {
      if (!text.is_string())
        return fail(core::ErrorKind::Malformed, "a text is expected here", path(name) + "." + key, "Put it in quotes");
      target.emplace_back(key, text.get<std::string>());
    }
  }
  void read(const json& value, const char* name, std::vector<std::pair<std::string, double>>& target) {
    if (!value.is_object())
      return fail(core::ErrorKind::Malformed, "an object of numbers is expected here", path(name),
                  R"(Write {"NAME": 1.5})");
    for (const auto& [key, number] : value.items()) {
      target.emplace_back(key, 0);
      read(number, (std::string(name) + "." + key).c_str(), target.back().second);
    }
  }
  void read(const json& value, const char* name, std::vector<double>& target) {
    if (value.is_array() && std::all_of(value.begin(), value.end(), [](const json& v) { return v.is_number(); }))
      target = value.get<std::vector<double>>();
    else
      fail(core::ErrorKind::Malformed, "a list of numbers is expected here", path(name), "Write [30, 120]");
  }
  void read(const json& value, const char* name, std::vector<std::vector<double>>& target) {
    const auto is_numbers = [](const json& list) {
      return list.is_array() && std::all_of(list.begin(), list.end(), [](const json& one) { return one.is_number(); });
    };
    if (value.is_array() && std::all_of(value.begin(), value.end(), is_numbers))
      target = value.get<std::vector<std::vector<double>>>();
    else
      fail(core::ErrorKind::Malformed, "lists of numbers are expected here", path(name), "Write [[1.5, 2], [3]]");
  }
  void read(const json& value, const char* name, std::map<std::string, std::string>& target) {
    std::vector<std::pair<std::string, std::string>> texts;
    read(value, name, texts);
    target.insert(texts.begin(), texts.end());
  }
  void read(const json& value, const char* name, std::vector<core::SettingWrite>& target) {
    std::vector<std::pair<std::string, std::string>> texts;
    read(value, name, texts);
    for (auto& [setting, text] : texts) target.push_back({std::move(setting), std::move(text)});
  }

  const json& object_;
  std::string where_;
  std::optional<core::Error>& error_;
};

}  // namespace store
