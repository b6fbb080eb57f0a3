#include "tools/trace/sketch_card.h"

namespace lostline::app {

Tool sketch_tool() {
  Tool tool{QT_TRANSLATE_NOOP("tools", "Sketch"),
            "pen-tool",
            QT_TRANSLATE_NOOP("tools", "Constraints and dimensions of the last sketch"),
            kTrace,
            's',
            Tool::Needs::Sketch,
            [](Workplace place, project::Id sketch) -> ToolCard* {
              return new SketchTool(place, sketch);
            }};
  tool.subject = Tool::Subject::Sketch;
  return tool;
}

}  // namespace lostline::app
