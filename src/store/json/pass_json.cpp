#include "store/json/pass_json.h"

#include "store/json/json_text.h"

namespace store {

using json = nlohmann::ordered_json;

std::string presentationToJson(const std::optional<core::Presentation>& presentation) {
  if (!presentation) return {};
  return json{{"interface", presentation->interface}, {"present_mode", presentation->present_mode},
              {"device", presentation->device},       {"program", presentation->program},
              {"width", presentation->width},         {"height", presentation->height}}
      .dump();
}

std::optional<core::Presentation> presentationFromJson(const std::string& text) {
  try {
    const json object = parseJson(text);
    return core::Presentation{object.at("interface"), object.at("present_mode"), object.at("device"),
                              object.at("program"),   object.at("width"),        object.at("height")};
  } catch (const json::exception&) {
    return std::nullopt;
  }
}

std::string typedToJson(const std::optional<core::TypedValue>& typed) {
  if (!typed) return {};
  json object{{"text", typed->text},         {"value", typed->value},   {"resolution", typed->resolution},
              {"is_range", typed->is_range}, {"person", typed->person}, {"parts", json::object()}};
  for (const auto& [name, value] : typed->parts) object["parts"][name] = value;
  return jsonText(object);
}

std::optional<core::TypedValue> typedFromJson(const std::string& text) {
  try {
    const json object = parseJson(text);
    core::TypedValue typed{object.at("text"),  object.at("value"), object.at("resolution"), object.at("is_range"), {},
                           object.at("person")};
    for (const auto& [name, value] : object.at("parts").items()) typed.parts.emplace_back(name, value.get<double>());
    return typed;
  } catch (const json::exception&) {
    return std::nullopt;
  }
}

}  // namespace store
