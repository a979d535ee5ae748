#include "store/json/samples_json.h"

#include <cmath>
#include <limits>

#include "store/json/json_text.h"
#include "store/study/frame_codec.h"

namespace store {
namespace {

using json = nlohmann::ordered_json;

json valuesJson(const std::vector<double>& values) {
  json list = json::array();
  for (const double value : values) list.push_back(std::isfinite(value) ? json(value) : json(nullptr));
  return list;
}

std::vector<double> valuesFrom(const json& list) {
  std::vector<double> values;
  for (const json& value : list)
    values.push_back(value.is_null() ? std::numeric_limits<double>::quiet_NaN() : value.get<double>());
  return values;
}

core::Channel channelFrom(const json& object) {
  core::Channel channel;
  channel.name = object.at("name").get<std::string>();
  channel.unit = object.at("unit").get<std::string>();
  const auto role = wholeNumberOf(object.at("role"));
  constexpr auto kLast = static_cast<std::int64_t>(core::ChannelRole::Frame);
  channel.role = static_cast<core::ChannelRole>(role >= 0 && role <= kLast ? role : 3);
  channel.part = object.at("part").get<std::string>();
  if (const auto critical = object.find("critical"); critical != object.end())
    channel.critical = critical->get<double>();
  channel.values = valuesFrom(object.at("values"));
  return channel;
}

}  // namespace

std::string samplesToJson(const core::Samples& samples) {
  json object{{"at_s", valuesJson(samples.at_s)}, {"channels", json::array()}};
  for (const core::Channel& channel : samples.channels) {
    json one{{"name", channel.name},
             {"unit", channel.unit},
             {"role", static_cast<int>(channel.role)},
             {"part", channel.part},
             {"values", valuesJson(channel.values)}};
    if (channel.critical) one["critical"] = *channel.critical;
    object["channels"].push_back(std::move(one));
  }
  for (const core::UnreadChannel& one : samples.unread)
    object["unread"].push_back({{"what", one.what}, {"reason", one.reason}});
  return jsonText(object);
}

core::Result<core::Samples> samplesFromJson(std::string_view text) {
  try {
    const json object = parseJson(text);
    core::Samples samples;
    samples.at_s = valuesFrom(object.at("at_s"));
    bool is_whole = true;
    for (const json& channel : object.at("channels")) {
      samples.channels.push_back(channelFrom(channel));
      is_whole = is_whole && samples.channels.back().values.size() == samples.at_s.size();
    }
    if (const auto unread = object.find("unread"); unread != object.end())
      for (const json& one : *unread)
        samples.unread.push_back({one.at("what").get<std::string>(), one.at("reason").get<std::string>()});
    if (is_whole) return samples;
  } catch (const std::exception&) {
  }
  return core::Error{core::ErrorKind::DamagedFile, "the samples of a pass cannot be read", "study file",
                     "Restore the file from a copy"};
}

core::Result<core::Samples> unpackSamples(std::string_view packed) {
  const auto text = unpackText(packed);
  if (!text) return text.error();
  return samplesFromJson(*text);
}

}  // namespace store
