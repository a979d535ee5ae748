#include "store/json/json_text.h"

#include <vector>

#include "core/values/shown_text.h"

namespace store {
namespace {

constexpr std::size_t kMostBytes = std::size_t{1} << 26;
constexpr std::size_t kMostDepth = 64;
// An object that keeps its order looks through all its names for each new one; a sorted one does not.
constexpr std::size_t kMostNames = 2'000;
// A value of two bytes of text takes a hundred as an object.
constexpr std::size_t kMostValues = 300'000;

struct Most {
  std::size_t names = kMostBytes;
  std::size_t values = kMostBytes;
};

/// Counts while the text is read, and builds nothing.
class Bounds final : public nlohmann::json_sax<nlohmann::json> {
 public:
  explicit Bounds(Most most) : most_(most) {}
  bool null() override { return count(); }
  bool boolean(bool) override { return count(); }
  bool number_integer(number_integer_t) override { return count(); }
  bool number_unsigned(number_unsigned_t) override { return count(); }
  bool number_float(number_float_t, const string_t&) override { return count(); }
  bool string(string_t&) override { return count(); }
  bool binary(binary_t&) override { return count(); }
  bool start_object(std::size_t) override { return open(); }
  bool key(string_t&) override { return ++names_.back() <= most_.names; }
  bool end_object() override { return close(); }
  bool start_array(std::size_t) override { return open(); }
  bool end_array() override { return close(); }
  bool parse_error(std::size_t, const std::string&, const nlohmann::detail::exception&) override { return false; }

 private:
  bool count() { return ++values_ <= most_.values; }
  bool open() {
    names_.push_back(0);
    return count() && names_.size() <= kMostDepth;
  }
  bool close() {
    names_.pop_back();
    return true;
  }
  Most most_;
  std::size_t values_ = 0;
  std::vector<std::size_t> names_;
};

bool isBounded(std::string_view text, Most most) {
  if (text.size() > kMostBytes) return false;
  Bounds bounds(most);
  return nlohmann::json::sax_parse(text, &bounds);
}

}  // namespace

bool isBoundedJson(std::string_view text) { return isBounded(text, {kMostNames, kMostValues}); }

// Such signs occur within texts only.
std::string withHiddenEscaped(std::string text) { return core::escapedHidden(std::move(text)); }

nlohmann::ordered_json parseJson(std::string_view text) {
  if (!isBoundedJson(text)) return nlohmann::ordered_json(nlohmann::ordered_json::value_t::discarded);
  return nlohmann::ordered_json::parse(text, nullptr, false);
}

nlohmann::json parseSortedJson(std::string_view text, bool is_from_study) {
  if (!isBounded(text, is_from_study ? Most{kMostValues, kMostValues} : Most{}))
    return nlohmann::json(nlohmann::json::value_t::discarded);
  return nlohmann::json::parse(text, nullptr, false);
}

}  // namespace store
