#pragma once

#include <map>

#include "model/tool_body.h"

// Moving faces of a solid along their normals.

namespace lostline::model {

/// A solid whose faces are moved outwards by a distance each (inwards when negative) and meet their
/// neighbours again; the others stay. Names follow; with `made`, moved faces are named by it.
/// @param distances  face index to mm; at least one is not zero.
/// @errors Failed  the faces do not meet again.
Result<Named> move_faces(const Model& before, const std::map<std::size_t, double>& distances,
                         const std::function<std::string(std::size_t face)>& made = {});

/// Indices of the faces that a step picked, each once.
/// @errors InvalidInput  none picked, or there is no part yet;  NotFound  one is gone.
Result<std::vector<std::size_t>> find_faces(const std::vector<std::string>& names,
                                            const Model& before, const char* what);

/// Picked faces as one shell, with the names they have in the model.
Named shell_of(const Model& before, const std::vector<std::size_t>& picked);

/// How far the scan lies from the first of the picked faces, as a reading of a field.
std::vector<NumberReading> read_shift(const std::vector<std::string>& faces, const Site& site,
                                      const ScanEvidence& scan, const char* field);

/// Tries a size; where it fails, halves it seven times to say what works.
/// @param says  a size in words, rounded towards zero so that it works: "9.3 mm".
Result<Model> largest_or_explain(double size, const char* what,
                                 const std::function<std::string(double size)>& says,
                                 const std::function<std::optional<Model>(double size)>& attempt);

/// "9.3 mm", rounded towards zero to a tenth; "0.25 mm" where it is less than one.
std::string in_millimetres(double size);

}  // namespace lostline::model
