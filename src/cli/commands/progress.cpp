#include "cli/commands/progress.h"

#include "core/record/looks.h"
#include "store/json/json_text.h"

namespace cli {

using nlohmann::ordered_json;

void JsonProgress::write(const ordered_json& event) { out_ << store::jsonText(event) << '\n' << std::flush; }

JsonProgress::int_type JsonProgress::overflow(int_type sign) {
  if (sign == traits_type::eof()) return sign;
  if (sign != '\n')
    line_ += traits_type::to_char_type(sign);
  else
    write({{"event", "said"}, {"text", std::exchange(line_, {})}});
  return out_.good() ? sign : traits_type::eof();
}

// A value that is sealed is in no event either: whoever reads them would stop when it looks good.
bool JsonProgress::pass(const session::Session& session, const core::Pass& pass, const std::string& text) {
  const core::Slot& slot = session.open().schedule()[pass.slot];
  const core::Case& a_case = session.study().cases[slot.case_index];
  const bool is_sealed = core::isSealed(session.study(), store::recordOf(session.recorded()), a_case);
  const bool is_shown = pass.value && !is_sealed;
  write({{"event", "pass"},
         {"pass", pass.slot + 1},
         {"of", session.open().schedule().size()},
         {"level", session.study().nameOf(slot.configuration)},
         {"case", a_case.title()},
         {"warm_up", slot.is_warm_up},
         {"number", slot.number},
         {"filed", pass.value.has_value() || !pass.does_not_run.empty()},
         {"value", is_shown ? ordered_json(*pass.value) : ordered_json()},
         {"unit", a_case.metric.unit},
         {"text", text}});
  return out_.good();
}

void JsonProgress::ended(int code, const core::Error* error) {
  if (!line_.empty()) (void)overflow('\n');
  ordered_json event{{"event", "ended"}, {"code", code}};
  if (error)
    event["error"] = {{"kind", core::errorKindName(error->kind)},
                      {"what", error->what},
                      {"where", error->where},
                      {"remedy", error->remedy}};
  write(event);
}

}  // namespace cli
