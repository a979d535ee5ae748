#include "core/desk/desk.h"

#include <algorithm>
#include <array>
#include <cmath>

#include <fmt/format.h>

#include "core/estimate/contrast.h"
#include "core/estimate/spread.h"
#include "core/machine/links.h"
#include "core/values/percent.h"

namespace core {
namespace {

constexpr std::array kLaneRates{2.5, 5.0, 8.0, 16.0, 32.0};  // GT/s by generation
constexpr std::array kWidths{1, 2, 4, 8, 16};
constexpr double kEqualWithin = 0.02;

using Answer = std::vector<DeskValue>;
using One = std::optional<double>;

/// The numbers of an ask as its formula reads them; all of them are there, and can be.
class Given {
 public:
  Given(const DeskAsk& ask, const DeskNumbers& numbers) : ask_(ask), numbers_(numbers) {}
  [[nodiscard]] double operator[](const char* key) const { return *find(key); }
  [[nodiscard]] One find(const char* key) const {
    if (const auto said = numbers_.find(key); said != numbers_.end()) return said->second.front();
    for (const DeskInput& input : ask_.inputs)
      if (input.key == key) return input.usually;
    return std::nullopt;
  }
  [[nodiscard]] const std::vector<double>& list(const char* key) const { return numbers_.at(key); }
  [[nodiscard]] LinkGrade link() const {
    return {kLaneRates[static_cast<std::size_t>((*this)["generation"]) - 1], static_cast<int>((*this)["lanes"])};
  }

 private:
  const DeskAsk& ask_;
  const DeskNumbers& numbers_;
};

Answer linkRate(const Given& given) {
  const double one_way = encodedGBps(given.link());
  const double payload =
      payloadFactor(static_cast<int>(given["payload_bytes"]), static_cast<int>(given["overhead_bytes"]));
  return {{"one_direction_GBps", "GB/s", "one way", One(one_way)},
          {"both_directions_GBps", "GB/s", "both ways together", One(2 * one_way)},
          {"usable_GBps", "GB/s", "one way, without the packets' own bytes", One(one_way * payload)}};
}

Answer equalLinks(const Given& given) {
  const LinkGrade asked = given.link();
  std::vector<EqualLink> links;
  for (std::size_t i = 0; i < kLaneRates.size(); ++i)
    for (const int lanes : kWidths) {
      const LinkGrade other{kLaneRates[i], lanes};
      const double ratio = encodedGBps(other) / encodedGBps(asked);
      if (other.gts != asked.gts && std::abs(ratio - 1) <= kEqualWithin)
        links.push_back({static_cast<int>(i) + 1, lanes, ratio});
    }
  return {{"links", "", "carry as much, within 2 %", std::move(links)}};
}

Answer frameTraffic(const Given& given) {
  const double rate = given["width"] * given["height"] * given["bytes_per_pixel"] * given["fps"] / 1e9;
  Answer answer{{"GBps", "GB/s", "that finished frames take, one way", One(rate)}};
  if (const auto link = given.find("link_GBps"))
    answer.push_back({"share_of_link", "", "of the link", One(rate / *link)});
  return answer;
}

Answer transferTime(const Given& given) {
  const double ms = given["megabytes"] / given["GBps"];
  Answer answer{{"ms", "ms", "that it takes", One(ms)}};
  if (const auto fps = given.find("fps"))
    answer.push_back({"share_of_frame", "", "of a frame's time", One(ms * *fps / 1000)});
  return answer;
}

Answer meanWait(const Given& given) {
  const double first = 500 / given["first_hz"];
  const double second = 500 / given["second_hz"];
  return {{"first_ms", "ms", "mean wait at the first rate", One(first)},
          {"second_ms", "ms", "mean wait at the second rate", One(second)},
          {"saved_mean_ms", "ms", "saved in the mean", One(first - second)},
          {"saved_worst_ms", "ms", "saved at worst", One(2 * (first - second))}};
}

Answer percentOf(const Given& given) {
  const double from = given["from"];
  const double to = given["to"];
  return {{"change_percent", "%", "change", One(100 * (to / from - 1))},
          {"inverse_percent", "%", "the same way back", One(100 * (from / to - 1))},
          {"difference", "", "difference in the unit", One(to - from)}};
}

Answer frameRate(const Given& given) {
  if (const auto ms = given.find("ms")) return {{"fps", "FPS", "frames a second", One(1000 / *ms)}};
  return {{"ms", "ms", "a frame", One(1000 / given["fps"])}};
}

Answer memoryRate(const Given& given) {
  const double mts = given["mts"];
  Answer answer{{"peak_GBps", "GB/s", "at most, all channels together",
                 One(memoryPeakGBps(mts, static_cast<int>(given["bits"])))},
                {"clock_mhz", "MHz", "clock, two transfers in each cycle", One(mts / 2)}};
  if (const auto cl = given.find("cl"))
    answer.push_back({"first_word_ns", "ns", "until the first word", One(2000 * *cl / mts)});
  return answer;
}

Answer stepGain(const Given& given) {
  std::vector<double> fps;
  for (const double rate : given.list("GBps")) fps.push_back(1000 / (given["t0_ms"] + given["mb_per_frame"] / rate));
  const auto& rates = given.list("GBps");
  const double saved = given["mb_per_frame"] * (1 / rates.front() - 1 / rates.back());
  return {{"saved_ms", "ms", "a frame, from the first to the last", One(saved)},
          {"ceiling_fps", "FPS", "with no transfer at all", One(1000 / given["t0_ms"])},
          {"fps", "FPS", "at each", std::move(fps)}};
}

Answer carveOut(const Given& given) {
  const double installed = given["installed_gib"];
  return {{"left_gib", "GiB", "left for programs", One(installed - given["carve_out_gib"] - given["system_gib"])},
          {"graphics_share", "", "of the memory given away", One(given["carve_out_gib"] / installed)}};
}

Answer value(const Given& given) {
  const double gain = given["gain_percent"];
  const double extra = given["extra_price"];
  return {{"gain_percent_per_100", "%", "gained for each 100 of price", extra == 0 ? One() : One(100 * gain / extra)},
          {"break_even_extra_price", "", "extra price at which the gain is paid for",
           One(given["base_price"] * gain / 100)}};
}

Answer energy(const Given& given) {
  const double watts = given["watts"];
  Answer answer;
  if (const auto fps = given.find("fps")) {
    answer.push_back({"joules_per_frame", "J", "a frame", One(watts / *fps)});
    answer.push_back({"frames_per_joule", "", "frames a joule", One(*fps / watts)});
  }
  if (const auto seconds = given.find("seconds")) {
    answer.push_back({"joules_per_task", "J", "a task", One(watts * *seconds)});
    answer.push_back({"tasks_per_kilojoule", "", "tasks for each 1000 J", One(1000 / (watts * *seconds))});
  }
  return answer;
}

Answer marginFromPasses(const Given& given) {
  const std::vector<double>& values = given.list("values");
  std::vector<double> logs;
  for (const double one : values) logs.push_back(std::log(one));
  VisitValues visit;
  visit.values = values;
  const auto spread = runToRunSpread(std::span(&visit, 1));
  const auto mean = pairedDifference(logs, given["confidence"], std::max(1.0, largestOf(logs)));
  const bool has_margin = mean && mean->inference;
  return {{"n", "", "passes", One(static_cast<double>(values.size()))},
          {"geometric_mean", "", "their geometric mean", One(std::exp(meanOf(logs)))},
          {"spread_percent", "%", "from pass to pass", spread ? One(spread->percent) : One()},
          {"margin_percent", "%", "half of the mean's interval",
           has_margin ? One(percentOfLn(mean->inference->t_quantile * *mean->se)) : One()}};
}

constexpr DeskRange kFromZero{0, true, 1e15, false};
constexpr DeskRange kAny{-1e15, true, 1e15, false};
constexpr DeskRange wholeUpTo(double most) { return {0, false, most, true}; }
constexpr double kMostBytes = 65'536;
constexpr double kMostSure = 0.999999;

struct Entry {
  DeskAsk ask;
  Answer (*answer)(const Given&);
};

// NOLINTNEXTLINE(readability-function-size): a table
std::vector<Entry> entries() {
  const DeskInput generation{"generation", "", "generation, 1 to 5", {}, true, false, wholeUpTo(kLaneRates.size())};
  const DeskInput lanes{"lanes", "", "lanes, 1 to 16", {}, true, false, wholeUpTo(kWidths.back())};
  return {{{"link_rate",
            "What a link carries",
            {generation,
             lanes,
             {"payload_bytes", "bytes", "payload of a packet", 256, true, false, wholeUpTo(kMostBytes)},
             {"overhead_bytes", "bytes", "what is not payload of it", 24, true, false, {0, true, kMostBytes, true}}},
            "GT/s × lanes × e / 8; e = 0.8 (Gen 1, 2), 128/130 (Gen 3 to 5); usable × P/(P + H)",
            "A measured copy lands at 0.8 to 0.9 of the usable rate, over a cable lower still."},
           linkRate},
          {{"equal_links",
            "Links that carry as much",
            {generation, lanes},
            "every other generation and width whose rate is within 2 %",
            "Equal rates are not equal waits: a narrower, faster link answers as soon, a longer path later."},
           equalLinks},
          {{"frame_traffic",
            "What finished frames take of a link",
            {{"width", "", "width in pixels"},
             {"height", "", "height in pixels"},
             {"bytes_per_pixel", "bytes", "a pixel", 4},
             {"fps", "FPS", "frames a second"},
             {"link_GBps", "GB/s", "what the link carries one way", {}, false}},
            "width × height × bytes × FPS / 10^9",
            "Only where finished frames cross that link: another device shows or stores them."},
           frameTraffic},
          {{"transfer_time",
            "How long a transfer takes",
            {{"megabytes", "MB", "to be moved"},
             {"GBps", "GB/s", "what the link carries one way"},
             {"fps", "FPS", "frames a second", {}, false}},
            "MB / (GB/s) = ms; its share of 1000 / FPS",
            "Whether anything waits for it: a transfer beside other work costs less, or nothing."},
           transferTime},
          {{"mean_wait",
            "How long an input waits to be asked for",
            {{"first_hz", "Hz", "first rate"}, {"second_hz", "Hz", "second rate"}},
            "500 / f ms in the mean, 1000 / f at worst",
            "Nothing about the rest of the way, from the device to the picture."},
           meanWait},
          {{"percent",
            "Percent and back",
            {{"from", "", "from"}, {"to", "", "to"}},
            "100 (to / from - 1), and 100 (from / to - 1) the other way",
            "How sure it is: one number against another has no interval."},
           percentOf},
          {{"frame_rate",
            "Milliseconds and frame rate",
            {{"ms", "ms", "a frame", {}, false}, {"fps", "FPS", "frames a second", {}, false}},
            "1000 / ms = FPS",
            "Nothing about single frames: a mean rate hides the slow ones."},
           frameRate},
          {{"memory_rate",
            "What memory carries",
            {{"mts", "MT/s", "transfers a second"},
             {"bits", "bits", "width of all channels", {}, true, false, wholeUpTo(kMostBytes)},
             {"cl", "", "CAS latency in cycles", {}, false}},
            "MT/s × bits / 8000 GB/s; MT/s = 2 × MHz; 2000 CL / (MT/s) ns",
            "A measured read lands at 0.7 to 0.9 of it; the first word is not the whole wait."},
           memoryRate},
          {{"step_gain",
            "What a faster link can save",
            {{"mb_per_frame", "MB", "moved for each frame"},
             {"t0_ms", "ms", "a frame without any transfer"},
             {"GBps", "GB/s", "rates, the slowest first", {}, true, true}},
            "D (1/b1 - 1/b2) ms; each doubling saves half as much; at most 1000 / t0",
            "It takes for granted that every transfer is waited for: real gains are at most as large."},
           stepGain},
          {{"carve_out",
            "Memory given to graphics",
            {{"installed_gib", "GiB", "installed"},
             {"carve_out_gib", "GiB", "given away", {}, true, false, kFromZero},
             {"system_gib", "GiB", "that the system takes", 0, true, false, kFromZero}},
            "installed - given away - system",
            "Whether a workload needs it: look at what it used."},
           carveOut},
          {{"value",
            "What a gain is worth",
            {{"base_price", "", "price of the whole"},
             {"extra_price", "", "extra price", {}, true, false, kFromZero},
             {"gain_percent", "%", "gain", {}, true, false, kAny}},
            "100 gain / extra; base × gain / 100 where performance for money is equal",
            "How sure the gain is, and whether anybody notices it."},
           value},
          {{"energy",
            "Energy a frame or a task",
            {{"watts", "W", "mean power"},
             {"fps", "FPS", "frames a second", {}, false},
             {"seconds", "s", "for the task", {}, false}},
            "W / FPS = J a frame; W × s = J a task",
            "Whose power it is: a part's sensor does not see the whole machine, nor the loss of its supply."},
           energy},
          {{"margin_from_passes",
            "How far single passes lie apart",
            {{"values", "", "passes in one unit, two or more", {}, true, true},
             {"confidence", "", "confidence", 0.95, true, false, {0, false, kMostSure, false}}},
            "geometric mean; 100 sqrt(exp(s^2) - 1); 100 (exp(t s / sqrt(n)) - 1)",
            "What flipping adds: passes of one visit do not show it."},
           marginFromPasses}};
}

const std::vector<Entry>& table() {
  static const std::vector<Entry> all = entries();
  return all;
}

Error outOfRange(const DeskInput& input, const std::string& what, const std::string& remedy) {
  return {ErrorKind::OutOfRange, fmt::format("{}: {}", input.title, what), std::string(input.key), remedy};
}

Status checkNumber(const DeskInput& input, double number) {
  const DeskRange& range = input.range;
  const bool is_within =
      (number > range.least || (range.may_be_least && number == range.least)) && number <= range.most;
  if (!is_within)  // what is no number at all is within nothing
    return outOfRange(input,
                      fmt::format("{:g} does not lie {} {:g}, up to {:g}", number,
                                  range.may_be_least ? "at or above" : "above", range.least, range.most),
                      "Write a number that does");
  if (range.is_whole && number != std::floor(number))
    return outOfRange(input, "it is a whole number", "Write a whole number");
  return Done{};
}

Status checkNumbers(const DeskAsk& ask, const DeskNumbers& numbers) {
  for (const auto& said : numbers) {
    const auto& key = said.first;
    const auto& values = said.second;
    const auto input =
        std::find_if(ask.inputs.begin(), ask.inputs.end(), [&](const DeskInput& one) { return one.key == key; });
    if (input == ask.inputs.end())
      return Error{ErrorKind::Malformed, fmt::format("{} does not take '{}'", ask.id, key), key,
                   "List what it takes with: iron-lever-cli desk"};
    if (values.empty() || (!input->is_list && values.size() > 1))
      return outOfRange(*input, "it is one number", "Write one");
    for (const double one : values)
      if (auto fine = checkNumber(*input, one); !fine) return fine;
    constexpr std::size_t kMost = 10'000;
    if (input->is_list && (values.size() < 2 || values.size() > kMost))
      return outOfRange(*input, "it is 2 to 10,000 numbers", "Write them with commas between");
  }
  for (const DeskInput& input : ask.inputs)
    if (input.is_needed && !input.usually && !numbers.contains(std::string(input.key)))
      return Error{ErrorKind::Missing, fmt::format("{} needs {}", ask.id, input.key), std::string(input.key),
                   fmt::format("Write {}=NUMBER ({})", input.key, input.title)};
  return Done{};
}

// Of two ways to ask one is taken; and some needs one of two.
Status checkWays(std::string_view ask, const DeskNumbers& numbers) {
  const auto said = [&](const char* key) { return numbers.contains(key); };
  if (ask == "frame_rate" && said("ms") == said("fps"))
    return Error{ErrorKind::Missing, "it is asked from one of the two", "ms, fps", "Write ms=NUMBER or fps=NUMBER"};
  if (ask == "energy" && !said("fps") && !said("seconds"))
    return Error{ErrorKind::Missing, "energy of what is not said", "fps, seconds",
                 "Write fps=NUMBER or seconds=NUMBER"};
  return Done{};
}

// What no number holds is no answer.
bool isBeyondNumbers(const DeskValue& one) {
  if (const auto* number = std::get_if<One>(&one.value)) return *number && !std::isfinite(**number);
  const auto* list = std::get_if<std::vector<double>>(&one.value);
  return list && std::any_of(list->begin(), list->end(), [](double number) { return !std::isfinite(number); });
}

}  // namespace

std::span<const DeskAsk> deskAsks() {
  static const std::vector<DeskAsk> asks = [] {
    std::vector<DeskAsk> all;
    for (const Entry& one : table()) all.push_back(one.ask);
    return all;
  }();
  return asks;
}

const DeskAsk* findDeskAsk(std::string_view id) {
  const auto asks = deskAsks();
  const auto found = std::find_if(asks.begin(), asks.end(), [&](const DeskAsk& one) { return one.id == id; });
  return found == asks.end() ? nullptr : &*found;
}

Result<std::vector<DeskValue>> deskAnswer(std::string_view ask, const DeskNumbers& numbers) {
  for (const Entry& one : table()) {
    if (one.ask.id != ask) continue;
    if (auto fine = checkNumbers(one.ask, numbers); !fine) return fine.error();
    if (auto fine = checkWays(ask, numbers); !fine) return fine.error();
    std::vector<DeskValue> answer = one.answer(Given(one.ask, numbers));
    if (std::any_of(answer.begin(), answer.end(), isBeyondNumbers))
      return Error{ErrorKind::OutOfRange, "the answer is beyond what numbers hold", std::string(ask),
                   "Ask with smaller or larger numbers"};
    return answer;
  }
  return Error{ErrorKind::Missing, fmt::format("the desk has no answer to '{}'", ask), "desk",
               "List what it has with: iron-lever-cli desk"};
}

}  // namespace core
