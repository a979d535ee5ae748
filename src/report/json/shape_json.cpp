#include "report/json/shape_json.h"

#include "core/values/percent.h"
#include "report/json/claim_json.h"
#include "report/json/or_null.h"

namespace report {
namespace {

using nlohmann::ordered_json;

void addEnds(ordered_json& out, const char* lo, const char* hi, const std::optional<std::pair<double, double>>& ends) {
  out[lo] = ends ? ordered_json(ends->first) : ordered_json();
  out[hi] = ends ? ordered_json(ends->second) : ordered_json();
}

ordered_json textOrNull(const std::string& text) { return text.empty() ? ordered_json() : ordered_json(text); }

class Shapes {
 public:
  Shapes(const core::Study& study, const core::ShapeFindings& findings) : study_(study), findings_(findings) {
    if (findings.suite_cases.size() >= 2) all_.push_back(std::nullopt);
    for (std::size_t i = 0; i < study.cases.size(); ++i) all_.emplace_back(i);
  }

  [[nodiscard]] ordered_json contrasts() const {
    ordered_json list = ordered_json::array();
    for (const auto& case_index : all_)
      for (std::size_t i = 0; i < findings_.asked.size(); ++i) list.push_back(contrast(i, case_index));
    return list;
  }

  [[nodiscard]] ordered_json ladders() const {
    ordered_json list = ordered_json::array();
    for (const core::LadderFinding& one : findings_.ladders) list.push_back(ladder(one));
    return list;
  }

  [[nodiscard]] ordered_json chains() const {
    ordered_json list = ordered_json::array();
    for (const core::ChainFinding& one : findings_.chains) list.push_back(chain(one));
    return list;
  }

  [[nodiscard]] ordered_json missing() const {
    ordered_json list = ordered_json::array();
    for (const core::MissingResult& one : findings_.missing)
      list.push_back({{"case", titleOf(one.case_index)}, {"name", one.name}, {"reason", one.reason}});
    return list;
  }

 private:
  [[nodiscard]] std::string titleOf(const std::optional<std::size_t>& case_index) const {
    return case_index ? study_.cases[*case_index].title() : "all";
  }

  [[nodiscard]] ordered_json contrast(std::size_t place, const std::optional<std::size_t>& case_index) const {
    const core::AskedContrast& asked = findings_.asked[place];
    ordered_json out{{"case", titleOf(case_index)},
                     {"kind", core::contrastKindName(asked.kind)},
                     {"variable", asked.variable},
                     {"from", asked.from},
                     {"to", asked.to},
                     {"at", textOrNull(asked.at)},
                     {"estimator", nullptr},
                     {"d", nullptr},
                     {"se", nullptr},
                     {"df", nullptr},
                     {"p", nullptr},
                     {"p_holm", nullptr},
                     {"own_se", nullptr},
                     {"improvement_percent", nullptr},
                     {"improvement_lo_percent", nullptr},
                     {"improvement_hi_percent", nullptr},
                     {"verdict", nullptr},
                     {"marks", ordered_json::array()}};
    addClaimPs(out, {});
    const core::ContrastFinding* found = findings_.find(place, case_index);
    if (found == nullptr) return out;
    out["estimator"] = core::estimatorName(found->estimator);
    out["d"] = found->contrast.difference;
    out["se"] = orNull(found->contrast.se);
    if (found->contrast.inference) {
      out["df"] = found->contrast.inference->df;
      out["p"] = found->contrast.inference->p;
    }
    out["p_holm"] = found->p_holm ? ordered_json(found->p_holm->zero) : ordered_json();
    if (found->shared) out["own_se"] = orNull(found->shared->own.se);
    if (found->is_log) out["improvement_percent"] = found->improvement.value;
    if (found->is_log && found->improvement.interval) {
      out["improvement_lo_percent"] = found->improvement.interval->lo;
      out["improvement_hi_percent"] = found->improvement.interval->hi;
    }
    out["verdict"] = core::verdictName(found->verdict);
    out["marks"] = found->marks.names();
    addClaimPs(out, *found);
    return out;
  }

  [[nodiscard]] ordered_json levelName(const std::optional<std::size_t>& level) const {
    return level ? ordered_json(study_.nameOf(core::configurationAt(*level))) : ordered_json();
  }

  [[nodiscard]] ordered_json ladder(const core::LadderFinding& one) const {
    ordered_json out{{"case", titleOf(one.case_index)},
                     {"levels", ordered_json::array()},
                     {"neighbours", ordered_json::array()},
                     {"best_level", one.enough ? levelName(one.enough->best) : ordered_json()},
                     {"enough_point", one.enough ? levelName(one.enough->enough) : ordered_json()},
                     {"enough", core::enoughReadingName(one.reading)},
                     {"highest_measured", one.order.empty() ? ordered_json() : levelName(one.order.back())},
                     {"lowest_enough_by_itself", one.enough ? levelName(one.enough->lowest_by_itself) : ordered_json()},
                     {"transfer_model", one.model ? transferJson(*one.model) : ordered_json()},
                     {"rank_reversals", ordered_json::array()}};
    for (const core::ConfigurationId level : core::configurationsOf(study_))
      out["levels"].push_back(levelJson(level, one));
    for (const core::LadderStep& step : one.steps) {
      const core::AskedContrast& asked = findings_.asked[step.asked];
      const auto& elasticity = step.elasticity;
      out["neighbours"].push_back({{"from", asked.from},
                                   {"to", asked.to},
                                   {"elasticity", elasticity ? ordered_json(elasticity->value) : ordered_json()},
                                   {"elasticity_lo", elasticity ? ordered_json(elasticity->lo) : ordered_json()},
                                   {"elasticity_hi", elasticity ? ordered_json(elasticity->hi) : ordered_json()}});
      if (step.is_reversal) out["rank_reversals"].push_back({{"from", asked.from}, {"to", asked.to}});
    }
    return out;
  }

  [[nodiscard]] ordered_json levelJson(core::ConfigurationId level, const core::LadderFinding& ladder) const {
    const auto& resource = findings_.resources[core::placeOf(level)];
    const core::ValueAt value = findings_.valuesOf(ladder.case_index)->at[core::placeOf(level)];
    ordered_json out{
        {"name", study_.nameOf(level)},
        {"resource", resource ? ordered_json(resource->value) : ordered_json()},
        {"resource_unit", resource ? textOrNull(resource->unit) : ordered_json()},
        {"resource_from", resource ? ordered_json(core::resourceSourceName(resource->source)) : ordered_json()},
        {"mean", orNull(value.mean)},
        {"improvement_percent", value.improvement ? ordered_json(value.improvement->value) : ordered_json()}};
    for (const core::Foretold& one : ladder.foretold)
      if (one.level == level) {
        out["predicted"] = {{"mean", one.value}};
        addEnds(out["predicted"], "lo", "hi", one.interval);
      }
    return out;
  }

  [[nodiscard]] ordered_json chain(const core::ChainFinding& one) const {
    ordered_json out{{"case", titleOf(one.case_index)}, {"steps", ordered_json::array()}};
    for (std::size_t i = 0; i < one.chain.steps.size(); ++i) {
      const core::LossStep& step = one.chain.steps[i];
      ordered_json each{{"from", study_.nameOf(core::configurationAt(i))},
                        {"to", study_.nameOf(core::configurationAt(i + 1))},
                        {"d", step.difference},
                        {"percent", core::percentOfLn(step.difference)},
                        {"share", one.chain.is_clear_of_zero ? ordered_json(step.share) : ordered_json()}};
      addEnds(each, "share_lo", "share_hi", step.interval);
      out["steps"].push_back(std::move(each));
    }
    const auto& interval = one.total.interval;
    out["total"] = {{"percent", one.total.value},
                    {"lo_percent", interval ? ordered_json(interval->lo) : ordered_json()},
                    {"hi_percent", interval ? ordered_json(interval->hi) : ordered_json()}};
    addContrast(out["total"], one.chain.total);
    out["shares_df"] = one.chain.total.inference ? ordered_json(one.chain.total.inference->df) : ordered_json();
    return out;
  }

  const core::Study& study_;
  const core::ShapeFindings& findings_;
  std::vector<std::optional<std::size_t>> all_;
};

}  // namespace

ordered_json transferJson(const core::TransferModel& model) {
  ordered_json out{{"t0_ms", model.t0_ms},
                   {"D_mb_per_frame", model.mb_per_frame},
                   {"df", model.df},
                   {"ceiling_fps", orNull(model.ceiling_fps)},
                   {"residual_scale", orNull(model.residual_scale)},
                   {"se_t0", orNull(model.se_t0)},
                   {"se_D", orNull(model.se_mb)}};
  addEnds(out, "t0_lo_ms", "t0_hi_ms", model.t0_interval);
  addEnds(out, "D_lo", "D_hi", model.mb_interval);
  return out;
}

void addShape(ordered_json& out, const core::Study& study, const core::Judgement& judgement) {
  const Shapes shapes(study, judgement.shape);
  const bool is_sealed = judgement.is_sealed;
  out["shape"] = core::shapeName(study.shape);
  out["compared"] = {{"from", study.nameOf(judgement.pair.from)}, {"to", study.nameOf(judgement.pair.to)}};
  out["contrasts"] = is_sealed ? ordered_json::array() : shapes.contrasts();
  out["ladder"] = is_sealed ? ordered_json::array() : shapes.ladders();
  out["chain"] = is_sealed ? ordered_json::array() : shapes.chains();
  out["missing"] = shapes.missing();
}

}  // namespace report
