#pragma once

#include <array>
#include <map>
#include <optional>
#include <string>
#include <type_traits>
#include <utility>
#include <vector>

#include "store/json/fields.h"
#include "store/json/json_text.h"

// The fields of a struct are listed once, by a callable `fields(table, object)`. Three tables go through that list: one
// knows the names, one reads, one writes. What each of them does with a kind of field:
//
//   required   must be there                        is always written
//   usual      may be left out                      is always written
//   unusual    may be left out                      is written where it is not as usual
//   word       one of a few words, may be left out  is always written
//   part, list objects in the object
namespace store {

/// The words for the values of an enum; of two words for one value the first is written.
template <class Enum, std::size_t N>
using Words = std::array<std::pair<const char*, Enum>, N>;

/// Knows the names.
class FieldNames {
 public:
  static constexpr bool kReads = false;

  template <class... Any>
  void required(const char* name, const Any&...) {
    names_.push_back(name);
  }
  template <class... Any>
  void usual(const char* name, const Any&...) {
    names_.push_back(name);
  }
  template <class... Any>
  void unusual(const char* name, const Any&...) {
    names_.push_back(name);
  }
  template <class... Any>
  void word(const char* name, const Any&...) {
    names_.push_back(name);
  }
  template <class... Any>
  void unusualWord(const char* name, const Any&...) {
    names_.push_back(name);
  }
  template <class... Any>
  void part(const char* name, const Any&...) {
    names_.push_back(name);
  }
  template <class... Any>
  void unusualPart(const char* name, const Any&...) {
    names_.push_back(name);
  }
  template <class... Any>
  void list(const char* name, const Any&...) {
    names_.push_back(name);
  }
  /// Read and written by hand.
  void alsoKnown(std::initializer_list<const char*> names) { names_.insert(names_.end(), names); }
  [[nodiscard]] const std::vector<const char*>& names() const { return names_; }

 private:
  std::vector<const char*> names_;
};

template <class Listed, class Object>
void readFields(const DesignJson& from, const std::string& where, std::optional<core::Error>& error,
                const Listed& listed, Object& object);

/// Reads. The first thing that is wrong is kept, with its place.
class FieldReader {
 public:
  static constexpr bool kReads = true;

  FieldReader(const DesignJson& object, const std::string& where, std::optional<core::Error>& error)
      : fields_(object, where, error), error_(error) {}

  template <class T>
  void required(const char* name, T& value) {
    fields_.required(name, value);
  }
  template <class T>
  void usual(const char* name, T& value) {
    fields_.optional(name, value);
  }
  template <class T>
  void unusual(const char* name, T& value, const std::type_identity_t<T>& = {}) {
    fields_.optional(name, value);
  }
  template <class T>
  void unusual(const char* name, std::optional<T>& value) {
    if (fields_.find(name) != nullptr) fields_.optional(name, value.emplace());
  }
  template <class Enum, std::size_t N>
  void word(const char* name, const Words<Enum, N>& words, Enum& value) {
    fields_.choice(name, words, value);
  }
  template <class Enum, std::size_t N>
  void unusualWord(const char* name, const Words<Enum, N>& words, Enum& value) {
    fields_.choice(name, words, value);
  }
  template <class Listed, class Part>
  void part(const char* name, const Listed& listed, Part& part) {
    if (const DesignJson* object = fields_.find(name)) readFields(*object, fields_.path(name), error_, listed, part);
  }
  template <class Listed, class Part>
  void unusualPart(const char* name, const Listed& listed, Part& value) {
    part(name, listed, value);
  }
  template <class Listed, class Part>
  void unusualPart(const char* name, const Listed& listed, std::optional<Part>& value) {
    if (fields_.find(name) != nullptr) part(name, listed, value.emplace());
  }
  template <class Listed, class Part>
  void list(const char* name, const Listed& listed, std::vector<Part>& parts, const char* remedy) {
    const DesignJson* array = fields_.find(name);
    if (array == nullptr || !array->is_array())
      return fields_.fail(core::ErrorKind::Malformed, std::string("a list of ") + name + " is expected here",
                          fields_.path(name), remedy);
    parts.clear();
    for (std::size_t i = 0; i < array->size(); ++i)
      readFields((*array)[i], fields_.path(name) + "[" + std::to_string(i) + "]", error_, listed, parts.emplace_back());
  }
  void alsoKnown(std::initializer_list<const char*>) {}
  [[nodiscard]] Fields& fields() { return fields_; }

 private:
  Fields fields_;
  std::optional<core::Error>& error_;
};

/// Writes.
class FieldWriter {
 public:
  static constexpr bool kReads = false;

  template <class T>
  void required(const char* name, const T& value) {
    json_[name] = jsonOf(value);
  }
  template <class T>
  void usual(const char* name, const T& value) {
    json_[name] = jsonOf(value);
  }
  template <class T>
  void unusual(const char* name, const T& value, const std::type_identity_t<T>& as_usual = {}) {
    if (!(value == as_usual)) json_[name] = jsonOf(value);
  }
  template <class T>
  void unusual(const char* name, const std::optional<T>& value) {
    if (value) json_[name] = jsonOf(*value);
  }
  template <class Enum, std::size_t N>
  void word(const char* name, const Words<Enum, N>& words, const Enum& value) {
    for (auto one = words.rbegin(); one != words.rend(); ++one)
      if (one->second == value) json_[name] = one->first;
  }
  /// The first of the words is the usual one.
  template <class Enum, std::size_t N>
  void unusualWord(const char* name, const Words<Enum, N>& words, const Enum& value) {
    if (value != words.front().second) word(name, words, value);
  }
  template <class Listed, class Part>
  void part(const char* name, const Listed& listed, const Part& part) {
    json_[name] = written(listed, part);
  }
  template <class Listed, class Part>
  void unusualPart(const char* name, const Listed& listed, const Part& part) {
    DesignJson object = written(listed, part);
    if (!object.empty()) json_[name] = std::move(object);
  }
  template <class Listed, class Part>
  void unusualPart(const char* name, const Listed& listed, const std::optional<Part>& part) {
    if (part) json_[name] = written(listed, *part);
  }
  template <class Listed, class Part>
  void list(const char* name, const Listed& listed, const std::vector<Part>& parts, const char*) {
    json_[name] = DesignJson::array();
    for (const Part& part : parts) json_[name].push_back(written(listed, part));
  }
  void alsoKnown(std::initializer_list<const char*>) {}
  [[nodiscard]] DesignJson& json() { return json_; }

 private:
  template <class Listed, class Part>
  static DesignJson written(const Listed& listed, const Part& part) {
    FieldWriter writer;
    listed(writer, part);
    return std::move(writer.json_);
  }
  template <class T>
  static DesignJson jsonOf(const T& value) {
    return value;
  }
  static DesignJson jsonOf(const std::map<std::string, std::string>& texts) {
    DesignJson object = DesignJson::object();
    for (const auto& [key, text] : texts) object[key] = text;
    return object;
  }
  template <class T>
  static DesignJson jsonOf(const std::vector<std::pair<std::string, T>>& named) {
    DesignJson object = DesignJson::object();
    for (const auto& [key, value] : named) object[key] = value;
    return object;
  }
  static DesignJson jsonOf(const std::vector<core::SettingWrite>& writes) {
    DesignJson object = DesignJson::object();
    for (const core::SettingWrite& write : writes) object[write.path] = write.value;
    return object;
  }

  DesignJson json_ = DesignJson::object();
};

/// Reads an object; a name that its list does not hold is an error.
template <class Listed, class Object>
void readFields(const DesignJson& from, const std::string& where, std::optional<core::Error>& error,
                const Listed& listed, Object& object) {
  FieldNames known;
  listed(known, object);
  FieldReader reader(from, where, error);
  reader.fields().allow(known.names());
  listed(reader, object);
}

template <class Listed, class Object>
[[nodiscard]] DesignJson writeFields(const Listed& listed, const Object& object) {
  FieldWriter writer;
  listed(writer, object);
  return std::move(writer.json());
}

/// An object that we wrote; nothing for any other text.
template <class Object, class Listed>
[[nodiscard]] std::optional<Object> objectFrom(std::string_view text, const Listed& listed) {
  if (text.empty()) return std::nullopt;  // of most passes: not worth the parser
  std::optional<core::Error> error;
  Object object;
  readFields(parseJson(text), "", error, listed, object);
  return error ? std::nullopt : std::optional(std::move(object));
}

}  // namespace store
