#include "store/json/pass_json.h"

#include "store/json/field_table.h"

namespace store {
namespace {

constexpr auto kPresentationFields = [](auto& table, auto& presentation) {
  table.required("interface", presentation.interface);
  table.required("present_mode", presentation.present_mode);
  table.required("device", presentation.device);
  table.required("program", presentation.program);
  table.required("width", presentation.width);
  table.required("height", presentation.height);
};

constexpr auto kTypedFields = [](auto& table, auto& typed) {
  table.required("text", typed.text);
  table.required("value", typed.value);
  table.required("resolution", typed.resolution);
  table.required("is_range", typed.is_range);
  table.required("person", typed.person);
  table.required("parts", typed.parts);
};

}  // namespace

std::string presentationToJson(const std::optional<core::Presentation>& presentation) {
  return presentation ? jsonText(writeFields(kPresentationFields, *presentation)) : std::string();
}

std::optional<core::Presentation> presentationFromJson(const std::string& text) {
  return objectFrom<core::Presentation>(text, kPresentationFields);
}

std::string typedToJson(const std::optional<core::TypedValue>& typed) {
  return typed ? jsonText(writeFields(kTypedFields, *typed)) : std::string();
}

std::optional<core::TypedValue> typedFromJson(const std::string& text) {
  return objectFrom<core::TypedValue>(text, kTypedFields);
}

}  // namespace store
