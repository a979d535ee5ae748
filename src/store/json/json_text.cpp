#include "store/json/json_text.h"

#include <vector>

#include "core/values/shown_text.h"

namespace store {
namespace {

constexpr std::size_t kMostBytes = std::size_t{1} << 26;
constexpr std::size_t kMostDepth = 64;
// An object that keeps its order looks through all its names for each new one; a sorted one does not.
constexpr std::size_t kMostNames = 2'000;

/// Counts while the text is read, and builds nothing.
class Bounds final : public nlohmann::json_sax<nlohmann::json> {
 public:
  explicit Bounds(std::size_t most_names) : most_names_(most_names) {}
  bool null() override { return true; }
  bool boolean(bool) override { return true; }
  bool number_integer(number_integer_t) override { return true; }
  bool number_unsigned(number_unsigned_t) override { return true; }
  bool number_float(number_float_t, const string_t&) override { return true; }
  bool string(string_t&) override { return true; }
  bool binary(binary_t&) override { return true; }
  bool start_object(std::size_t) override { return open(); }
  bool key(string_t&) override { return ++names_.back() <= most_names_; }
  bool end_object() override { return close(); }
  bool start_array(std::size_t) override { return open(); }
  bool end_array() override { return close(); }
  bool parse_error(std::size_t, const std::string&, const nlohmann::detail::exception&) override { return false; }

 private:
  bool open() {
    names_.push_back(0);
    return names_.size() <= kMostDepth;
  }
  bool close() {
    names_.pop_back();
    return true;
  }
  std::size_t most_names_;
  std::vector<std::size_t> names_;
};

bool isBounded(std::string_view text, std::size_t most_names) {
  if (text.size() > kMostBytes) return false;
  Bounds bounds(most_names);
  return nlohmann::json::sax_parse(text, &bounds);
}

}  // namespace

bool isBoundedJson(std::string_view text) { return isBounded(text, kMostNames); }

// Such signs occur within texts only.
std::string withHiddenEscaped(std::string text) { return core::escapedHidden(std::move(text)); }

nlohmann::ordered_json parseJson(std::string_view text) {
  if (!isBoundedJson(text)) return nlohmann::ordered_json(nlohmann::ordered_json::value_t::discarded);
  return nlohmann::ordered_json::parse(text, nullptr, false);
}

nlohmann::json parseSortedJson(std::string_view text) {
  if (!isBounded(text, kMostBytes)) return nlohmann::json(nlohmann::json::value_t::discarded);
  return nlohmann::json::parse(text, nullptr, false);
}

}  // namespace store
