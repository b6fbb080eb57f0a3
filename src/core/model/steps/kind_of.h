#pragma once

#include "model/bodies.h"
#include "model/tool_body.h"

// For the .cpp file of a kind of step: its constant from the functions of its struct.

namespace lostline::model {

template <class T>
constexpr FeatureKind kind_of(const char* key, const char* title, const char* tip, const char* icon,
                              char letter) {
  FeatureKind kind{key,
                   title,
                   tip,
                   icon,
                   letter,
                   [] { return Feature(T{}); },
                   [](const Feature& feature) { return feature.as<T>()->words(); },
                   [](Feature& feature, Description& d) { feature.as<T>()->describe(d); },
                   nullptr,
                   nullptr,
                   nullptr,
                   nullptr};
  if constexpr (requires { &T::read; }) {
    kind.read = [](const Feature& feature, const Site& site, const ScanEvidence& scan) {
      return feature.as<T>()->read(site, scan);
    };
  }
  if constexpr (requires { &T::stands_alone; }) {
    kind.stands_alone = [](const Feature& feature) { return feature.as<T>()->stands_alone(); };
  }
  if constexpr (requires { &T::tool; }) {
    kind.tool = [](const Feature& feature, const Site& site) {
      return feature.as<T>()->tool(site);
    };
    kind.build = [](const Feature& feature, const Site& site) -> Result<Model> {
      const Result<ToolBody> tool = feature.as<T>()->tool(site);
      if (!tool) return tool.error();
      return combine(site.before, *tool, prefix_of(site.step), site.setting.task);
    };
  } else {
    kind.build = [](const Feature& feature, const Site& site) {
      const auto build = [&](const Site& there) { return feature.as<T>()->build(there); };
      if constexpr (requires { T::kChangesOneBody; })
        return on_one_body(feature, site, prefix_of(site.step), build);
      else
        return build(site);
    };
  }
  return kind;
}

}  // namespace lostline::model
