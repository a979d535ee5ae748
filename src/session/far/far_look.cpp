#include "session/far/far_look.h"

#include "store/json/capture_json.h"
#include "store/json/json_text.h"

namespace session {

core::Result<FarLook> lookThere(const SshLink::To& to, const std::string& study) {
  auto link = SshLink::open(to);
  if (!link) return link.error();
  if (!study.empty()) {
    const auto state = (*link)->ask({{"do", "state"}, {"study", study}});
    if (!state) return state.error();
    if (farSays(*state, "running"))
      return core::Error{core::ErrorKind::Busy, "its sheet runs there, and is not disturbed", to.name,
                         "Wait for it, or follow it: Bench work > Several benches at once"};
  }
  const auto clocks = (*link)->compareClocks();
  if (!clocks) return clocks.error();
  const auto answer = (*link)->ask({{"do", "capture"}});
  if (!answer) return answer.error();
  auto capture = store::captureFromJson(store::jsonText(answer->value("capture", FarJson())), to.name);
  if (!capture) return capture.error();
  return FarLook{(*link)->hello(), *clocks, *std::move(capture)};
}

}  // namespace session
