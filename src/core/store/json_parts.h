#pragma once

#include <string>
#include <utility>
#include <vector>

#include "fit/surface.h"
#include "fit/surface_kind.h"
#include "store/manifest.h"

namespace lostline::store {

inline Json vec(const Vec2& v) { return Json::array({v.x(), v.y()}); }
inline Json vec(const Vec3& v) { return Json::array({v.x(), v.y(), v.z()}); }
inline Vec2 vec2(const Json& j) { return {j.at(0).get<double>(), j.at(1).get<double>()}; }
inline Vec3 vec3(const Json& j) {
  return {j.at(0).get<double>(), j.at(1).get<double>(), j.at(2).get<double>()};
}

inline Json vecs(const std::vector<Vec3>& list) {
  Json j = Json::array();
  for (const Vec3& v : list) j.push_back(vec(v));
  return j;
}
inline std::vector<Vec3> vec3s(const Json& j) {
  std::vector<Vec3> list;
  for (const Json& v : j) list.push_back(vec3(v));
  return list;
}

/// A motion as the first three rows of its matrix.
inline Json write_motion(const Transform& motion) {
  Json rows = Json::array();
  for (Eigen::Index k = 0; k < 12; ++k) rows.push_back(motion.matrix()(k / 4, k % 4));
  return rows;
}
inline Transform read_motion(const Json& j) {
  Transform motion = Transform::Identity();
  for (Eigen::Index k = 0; k < 12; ++k)
    motion.matrix()(k / 4, k % 4) = j.at(static_cast<std::size_t>(k)).get<double>();
  return motion;
}

/// Enumerations are stored by name, so that the file reads without the program.
template <class E>
struct Names {
  std::vector<std::pair<E, const char*>> list;
  const char* name(E e) const {
    for (const auto& [value, text] : list) {
      if (value == e) return text;
    }
    return "";
  }
  E value(const Json& j) const {
    const auto text = j.get<std::string>();
    for (const auto& [value, name] : list) {
      if (text == name) return value;
    }
    throw Json::other_error::create(501, "unknown name \"" + text + "\"", &j);
  }
};

inline const Names<fit::Kind> kKinds = [] {
  Names<fit::Kind> names;
  for (const fit::SurfaceKind& kind : fit::surface_kinds())
    names.list.emplace_back(kind.kind, kind.name);
  return names;
}();

}  // namespace lostline::store
