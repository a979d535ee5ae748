#include "report/json/claim_json.h"

#include <string>
#include <utility>

#include "report/json/or_null.h"

namespace report {

void addContrast(nlohmann::ordered_json& out, const core::Contrast& contrast) {
  out["d"] = contrast.difference;
  out["se"] = orNull(contrast.se);
  out["df"] = contrast.inference ? nlohmann::ordered_json(contrast.inference->df) : nlohmann::ordered_json();
  out["p"] = contrast.inference ? nlohmann::ordered_json(contrast.inference->p) : nlohmann::ordered_json();
}

void addClaimPs(nlohmann::ordered_json& out, const core::Claimed& claim) {
  for (const auto& [ps, after] : {std::pair{claim.p, ""}, std::pair{claim.p_holm, "_holm"}})
    for (const auto& [name, null] : {std::pair{"p_gain", &core::NullPs::gain},
                                     {"p_loss", &core::NullPs::loss},
                                     {"p_same", &core::NullPs::same},
                                     {"p_zero", &core::NullPs::zero}})
      out[std::string(name) + after] = ps ? nlohmann::ordered_json((*ps).*null) : nlohmann::ordered_json();
}

}  // namespace report
