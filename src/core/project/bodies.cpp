#include "project/bodies.h"

#include <cstdlib>

namespace lostline::project {

BodyLook look_of(const Document& document, const model::Body& body) {
  const auto it = document.bodies.find(body.key);
  BodyLook look = it != document.bodies.end() ? it->second : BodyLook{};
  if (!look.colour) look.colour = body.colour;
  return look;
}

std::string body_title(const Document& document, const model::Body& body) {
  const BodyLook look = look_of(document, body);
  if (!look.name.empty()) return look.name;
  if (!body.name.empty()) return body.name;
  // "s12" or, of several that the step made, "s12.2".
  char* rest = nullptr;
  const Id id = body.key.size() > 1 ? std::strtoull(body.key.c_str() + 1, &rest, 10) : 0;
  const model::Step* step = document.find_step(id);
  if (step == nullptr) return body.key;
  return step->name + (rest != nullptr && *rest == '.' ? std::string(" ") + (rest + 1) : "");
}

model::Model dressed(const Document& document, const model::Model& model) {
  std::vector<model::Body> bodies;
  for (std::size_t i = 0; i < model.body_count(); ++i) {
    model::Body body = model.body(i);
    // The only body is the part itself, unless it was given a name.
    const bool unnamed = look_of(document, body).name.empty() && body.name.empty();
    body.colour = look_of(document, body).colour;
    body.name = model.body_count() == 1 && unnamed ? std::string() : body_title(document, body);
    bodies.push_back(std::move(body));
  }
  return model.dressed(std::move(bodies));
}

Result<Document> with_body_look(const Document& document, const std::string& key,
                                const BodyLook& look) {
  if (!look.name.empty() && look.name.find_first_not_of(" \t") == std::string::npos)
    return Error{ErrorCode::InvalidInput, "Give the body a name with letters in it."};
  Document next = document;
  if (look == BodyLook{})
    next.bodies.erase(key);
  else
    next.bodies[key] = look;
  return next;
}

}  // namespace lostline::project
