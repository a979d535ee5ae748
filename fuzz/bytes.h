// An input of the fuzzer, taken apart; and JSON that starts from a valid text and has some of its values changed.
#pragma once

#include <algorithm>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <limits>
#include <string>
#include <vector>

#include <nlohmann/json.hpp>

namespace fuzz {

inline void demand(bool holds, const char* file = __builtin_FILE(), int line = __builtin_LINE()) {
  if (holds) return;
  std::fprintf(stderr, "%s:%d: this does not hold\n", file, line);
  std::abort();
}

/// Bytes of the input, taken one after the other; zeros behind its end.
class Bytes {
 public:
  Bytes(const std::uint8_t* data, std::size_t size) : data_(data), size_(size) {}
  [[nodiscard]] bool isEmpty() const { return at_ >= size_; }
  std::uint8_t take() { return at_ < size_ ? data_[at_++] : 0; }
  std::uint64_t number(int bytes) {
    std::uint64_t value = 0;
    for (int i = 0; i < bytes; ++i) value = (value << 8) | take();
    return value;
  }
  /// All that is left.
  std::string rest() {
    const std::size_t from = std::min(at_, size_);
    at_ = size_;
    return {reinterpret_cast<const char*>(data_) + from, size_ - from};
  }
  std::string text() {
    const std::size_t length = std::min<std::size_t>(take(), size_ - std::min(at_, size_));
    const std::string taken(reinterpret_cast<const char*>(data_) + at_, length);
    at_ += length;
    return taken;
  }

 private:
  const std::uint8_t* data_;
  std::size_t size_;
  std::size_t at_ = 0;
};

/// The places of everything in a JSON value, itself left out.
template <class Json>
void collect(Json& value, std::vector<Json*>& places) {
  if (!value.is_structured()) return;
  for (Json& child : value) {
    places.push_back(&child);
    collect(child, places);
  }
}

template <class Json>
Json someValue(Bytes& bytes) {
  constexpr double kEdges[]{0,    -1,   1,    2,    0.5,   1e-300, 1e300,        99.99,        100,
                            -100, 1e18, -0.0, 1e-9, 65536, 1e6,    2147483648.0, 4294967297.0, 3};
  switch (bytes.take() % 9) {
    case 0: return Json(kEdges[bytes.take() % std::size(kEdges)]);
    case 1: return Json(static_cast<std::int64_t>(bytes.number(8)));
    case 2: return Json(static_cast<std::int8_t>(bytes.take()));
    case 3: {
      const std::uint64_t bits = bytes.number(8);
      double number = 0;
      std::memcpy(&number, &bits, sizeof number);
      return Json(number);
    }
    case 4: return Json(bytes.take() % 2 == 0);
    case 5: return Json(nullptr);
    case 6: return Json(bytes.text());
    case 7: return Json::array();
    default: return Json(bytes.take() * 0.01);
  }
}

/// Up to eight of its values become others, come twice, or go.
template <class Json>
Json changed(Json value, Bytes& bytes) {
  for (int i = 0; i < 8 && !bytes.isEmpty(); ++i) {
    std::vector<Json*> places;
    collect(value, places);
    if (places.empty()) break;
    Json& place = *places[bytes.number(2) % places.size()];
    switch (bytes.take() % 5) {
      case 0:
        if (place.is_array() && !place.empty() && place.size() < 64)
          place.push_back(Json(place[bytes.take() % place.size()]));
        break;
      case 1:
        if (place.is_array() && !place.empty())
          place.erase(place.begin() + bytes.take() % static_cast<int>(place.size()));
        break;
      case 2:
        if (place.is_object() && !place.empty())
          place.erase(std::next(place.begin(), bytes.take() % static_cast<int>(place.size())));
        break;
      default: place = someValue<Json>(bytes);
    }
  }
  return value;
}

}  // namespace fuzz
