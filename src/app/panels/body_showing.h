#pragma once

#include "jobs/session.h"

namespace lostline::app {

enum class Showing { Toggle, Only, All };

/// Shows or hides bodies of the model, as an edit of the project.
void show_bodies(Session& session, std::size_t body, Showing showing);

}  // namespace lostline::app
