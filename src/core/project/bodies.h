#pragma once

#include <string>

#include "project/document.h"

namespace lostline::project {

/// What a body is called: by the engineer, by the file it came from, or for the step that made it.
std::string body_title(const Document& document, const model::Body& body);
/// How the engineer wants a body shown; the default where nothing was said.
BodyLook look_of(const Document& document, const model::Body& body);

/// The model with the names and colours that its bodies have in the document.
model::Model dressed(const Document& document, const model::Model& model);

/// Names, colours, shows or hides the body of a key.
/// @errors InvalidInput  a name without letters.
Result<Document> with_body_look(const Document& document, const std::string& key,
                                const BodyLook& look);

}  // namespace lostline::project
