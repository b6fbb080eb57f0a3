#include "bench/bench_view.h"

#include <QLabel>
#include <QMouseEvent>
#include <QOpenGLContext>
#include <QOpenGLFunctions>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "bench/sketch_marks.h"
#include "look/preferences.h"
#include "look/theme.h"

namespace lostline::app {

BenchView::BenchView(Session& session, QWidget* parent) : GlCanvas(parent), session_(session) {
  setMouseTracking(true);
  setFocusPolicy(Qt::StrongFocus);
  setMinimumSize(320, 240);
  setAccessibleName(tr("Bench"));
  camera_.look(Vec3(0.55, -0.75, 0.5), Vec3::UnitZ());
  rest_.setSingleShot(true);
  rest_.setInterval(250);
  connect(&rest_, &QTimer::timeout, this, [this] {
    moving_ = false;
    redraw();
  });
  connect(&session_, &Session::changed, this, &BenchView::documentChanged);
  connect(&session_, &Session::routeChanged, this, &BenchView::routeChanged);
}

BenchView::~BenchView() {
  if (makeCurrent()) renderer_.release();
  doneCurrent();
}

void BenchView::initializeGL() {
  renderer_.initialise();
  scan_dirty_ = others_dirty_ = model_dirty_ = values_dirty_ = true;
  preview_dirty_ = preview_ != nullptr;
}

void BenchView::resizeEvent(QResizeEvent* event) {
  camera_.size = QSizeF(event->size());
  placeWelcome();
  redraw();
}

void BenchView::setWelcome(QWidget* page) {
  welcome_ = page;
  welcome_->setParent(this);
  showWelcome();
  placeWelcome();
}

void BenchView::showWelcome() {
  const project::Document& d = session_.document();
  if (welcome_ != nullptr) welcome_->setVisible(!d.scan && d.steps.empty() && points_.empty());
}

void BenchView::placeWelcome() {
  if (welcome_ == nullptr) return;
  welcome_->move((width() - welcome_->width()) / 2, (height() - welcome_->height()) / 2);
}

Transform BenchView::placement() const {
  return preview_placement_.value_or(session_.document().to_part());
}

void BenchView::documentChanged() {
  const project::Document& d = session_.document();
  showWelcome();
  if (d.scan != scan_on_card_) {
    const bool fresh = !scan_on_card_ || !d.scan;
    if (!fresh) followScale(*scan_on_card_, *d.scan);
    scan_on_card_ = d.scan;
    scan_wanted_ = true;
    selected_triangles_.clear();
    selected_regions_.clear();
    field_.reset();
    if (fresh) framed_once_ = false;
  }
  if (d.other_scans != others_on_card_) {
    others_on_card_ = d.other_scans;
    others_wanted_ = true;
  }
  if (d.survey != survey_shown_) {
    survey_shown_ = d.survey;
    refreshWashes();
  }
  if (!framed_once_ && d.scan) {
    framed_once_ = true;
    placed_ = placement();
    fitView();
  }
  refreshShowing();
  if (scan_wanted_ || others_wanted_) prepareScans();
  followPlacement();
  values_dirty_ = true;
  redraw();
}

void BenchView::refreshShowing() {
  const project::Document& d = session_.document();
  if (d.showing.hidden_regions != showing_.hidden_regions ||
      d.showing.translucent_regions != showing_.translucent_regions)
    scan_wanted_ = true;
  if (d.showing.scans != showing_.scans) others_wanted_ = true;
  showing_ = d.showing;
  sketch_lines_.clear();
  for (const project::Id id : showing_.sketches) {
    const project::TracedSketch* s = d.find_sketch(id);
    if (s == nullptr) continue;
    const auto marks = sketch_marks(s->base, s->level, {}, s->sketch, {}, {}, false, s->reach());
    sketch_lines_.insert(sketch_lines_.end(), marks.begin(), marks.end());
  }
}

void BenchView::routeChanged() {
  const auto& wanted = guest_ ? guest_->tessellation : session_.route()->shown;
  if (wanted != model_on_card_) {
    model_on_card_ = wanted;
    model_dirty_ = true;
    setHovered({});
    selected_faces_.clear();  // the numbers of the new model's faces are others
    model_edges_.clear();
    if (model_on_card_) {
      LineBatch edges{{}, role::ink, 1.6F, false};
      for (const auto& line : model_on_card_->edges) {
        for (std::size_t i = 1; i < line.points.size(); ++i)
          edges.segments.emplace_back(line.points[i - 1], line.points[i]);
      }
      model_edges_.push_back(std::move(edges));
    }
  }
  values_dirty_ = true;
  redraw();
}

void BenchView::sheetChanged() {
  model_on_card_.reset();  // its lines are drawn in the sheet's ink
  routeChanged();
  update();
}

void BenchView::refreshWashes() {
  // Neighbouring regions never share a wash: each takes the first that no neighbour has.
  wash_of_region_.clear();
  region_borders_.clear();
  borders_of_region_.clear();
  setHovered({});
  const project::Document& d = session_.document();
  if (!d.survey || !d.scan || d.survey->triangle_region.size() != d.scan->mesh->triangles.size())
    return;
  const auto& labels = d.survey->triangle_region;
  const std::size_t count = d.survey->regions.size() + 1;
  std::vector<std::set<std::uint32_t>> neighbours(count);
  borders_of_region_.resize(count);
  LineBatch borders{{}, QColor(0x6E, 0x6A, 0x63, 190), 1.0F, false};
  for (std::size_t t = 0; t < labels.size(); ++t) {
    for (std::size_t k = 0; k < 3; ++k) {
      const std::uint32_t other = d.scan->topology.across[3 * t + k];
      if (other == scan::kNone || other < t || labels[other] == labels[t]) continue;
      neighbours[labels[t]].insert(labels[other]);
      neighbours[labels[other]].insert(labels[t]);
      for (const std::uint32_t side : {labels[t], labels[other]})
        borders_of_region_[side].push_back(static_cast<std::uint32_t>(borders.segments.size()));
      borders.segments.emplace_back(d.scan->mesh->corner(t, static_cast<int>(k)),
                                    d.scan->mesh->corner(t, static_cast<int>((k + 1) % 3)));
    }
  }
  region_borders_.push_back(std::move(borders));  // in scan coordinates; moved when drawn
  wash_of_region_.assign(count, -1);
  for (std::size_t r = 1; r < count; ++r) {
    std::set<int> taken;
    for (const std::uint32_t n : neighbours[r]) taken.insert(wash_of_region_[n]);
    int wash = static_cast<int>(r) % kWashes;
    for (int tries = 0; tries < kWashes && taken.contains(wash); ++tries)
      wash = (wash + 1) % kWashes;
    wash_of_region_[r] = wash;
  }
  for (const survey::Region& r : d.survey->regions) {
    if (!r.fit) {
      wash_of_region_[r.id] = -1;  // free-form stays clay
    } else if (r.finish == survey::Finish::Formed || r.finish == survey::Finish::AsCast) {
      wash_of_region_[r.id] += (r.finish == survey::Finish::Formed ? 1 : 2) * kWashes;
    }
  }
}

void BenchView::refreshValues() {
  const project::Document& d = session_.document();
  if (d.scan && scan_drawn_ && scan_drawn_->scan == d.scan) {
    const scan::Mesh& mesh = *d.scan->mesh;
    std::vector<float> values(mesh.vertices.size(), -1.0F);
    if (field_ && field_->values->size() == values.size()) {
      values = *field_->values;
    } else if (paint_ == Paint::Deviation) {
      const auto route = session_.route();
      if (route->map && route->map->value.size() == values.size())
        values = route->map->value;
      else
        std::fill(values.begin(), values.end(), std::numeric_limits<float>::quiet_NaN());
    } else {
      const bool washed = paint_ == Paint::Tint && d.survey &&
                          d.survey->triangle_region.size() == mesh.triangles.size();
      if (d.survey && d.survey->triangle_region.size() == mesh.triangles.size()) {
        std::vector<float> of_region(d.survey->regions.size() + 1, -1.0F);
        for (std::size_t r = 0; r < of_region.size(); ++r)
          if (washed && r < wash_of_region_.size())
            of_region[r] = static_cast<float>(wash_of_region_[r]);
        for (const std::uint32_t r : selected_regions_)
          if (r < of_region.size()) of_region[r] = 100;
        for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
          const std::uint32_t region = d.survey->triangle_region[t];
          const float value = region < of_region.size() ? of_region[region] : -1.0F;
          if (value >= 0)
            values[mesh.triangles[t][2]] = value;  // the last corner gives the flat colour
        }
      }
      for (const std::uint32_t t : selected_triangles_) {
        if (t < mesh.triangles.size()) values[mesh.triangles[t][2]] = 100;
      }
    }
    renderer_.setScanValues(values);
  }
  if (model_on_card_) {
    std::vector<float> values(model_on_card_->mesh.vertices.size(), -1.0F);
    const std::set<std::uint32_t> picked(selected_faces_.begin(), selected_faces_.end());
    for (std::size_t t = 0; t < model_on_card_->mesh.triangles.size(); ++t) {
      if (picked.contains(model_on_card_->triangle_face[t])) {
        for (const std::uint32_t v : model_on_card_->mesh.triangles[t]) values[v] = 100;
      }
    }
    renderer_.setModelValues(values);
  }
}

void BenchView::setShow(Show show) {
  show_ = show;
  redraw();
}
void BenchView::setPaint(Paint paint) {
  paint_ = paint;
  values_dirty_ = true;
  redraw();
}
void BenchView::setField(std::optional<Field> field) {
  field_ = std::move(field);
  values_dirty_ = true;
  redraw();
}
void BenchView::setSeeThrough(bool on) {
  see_through_ = on;
  redraw();
}
void BenchView::setScanAsPoints(bool on) {
  as_points_ = on;
  redraw();
}
void BenchView::setGuest(std::shared_ptr<const Guest> guest) {
  guest_ = std::move(guest);
  others_dirty_ = true;
  routeChanged();
}
void BenchView::setGrid(bool on) {
  grid_ = on;
  redraw();
}
void BenchView::setSelection(const std::vector<std::uint32_t>& regions,
                             const std::vector<std::uint32_t>& triangles) {
  selected_regions_ = regions;
  selected_triangles_ = triangles;
  values_dirty_ = true;
  redraw();
}
void BenchView::setModelSelection(const std::vector<std::uint32_t>& faces) {
  selected_faces_ = faces;
  values_dirty_ = true;
  redraw();
}
void BenchView::setHovered(const Hovered& hovered) {
  if (hovered == hovered_) return;
  hovered_ = hovered;
  hovered_borders_.clear();
  if (hovered.region != 0 && hovered.region < borders_of_region_.size()) {
    const Transform to_part = placement();
    for (const std::uint32_t k : borders_of_region_[hovered.region]) {
      const auto& [a, b] = region_borders_.front().segments[k];
      hovered_borders_.emplace_back(to_part * a, to_part * b);
    }
  } else if (hovered.face != scan::kNone) {
    hovered_borders_ = bordersOfFace(hovered.face);
  }
  update();
}

std::vector<std::pair<Vec3, Vec3>> BenchView::bordersOfFace(std::uint32_t face) const {
  // Edges of its triangles that no second one of them has; faces share no vertices.
  std::map<std::pair<std::uint32_t, std::uint32_t>, int> uses;
  if (!model_on_card_) return {};
  const scan::Mesh& mesh = model_on_card_->mesh;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    if (model_on_card_->triangle_face[t] != face) continue;
    for (std::size_t k = 0; k < 3; ++k)
      ++uses[std::minmax(mesh.triangles[t][k], mesh.triangles[t][(k + 1) % 3])];
  }
  std::vector<std::pair<Vec3, Vec3>> borders;
  for (const auto& [edge, count] : uses) {
    if (count == 1) borders.emplace_back(mesh.vertices[edge.first], mesh.vertices[edge.second]);
  }
  return borders;
}

void BenchView::setRubber(const QPolygonF& outline) {
  rubber_ = outline;
  update();
}
void BenchView::setGuides(std::vector<QPolygonF> guides) {
  guides_ = std::move(guides);
  update();
}
void BenchView::setMarks(std::vector<LineBatch> marks, std::vector<Callout> callouts) {
  marks_ = std::move(marks);
  callouts_ = std::move(callouts);
  redraw();
}
void BenchView::setPoints(std::vector<std::shared_ptr<const PointBatch>> points, bool instead) {
  points_instead_ = instead && !points.empty();
  const bool first =
      points_.empty() && !points.empty() && !session_.document().scan && model_on_card_ == nullptr;
  points_ = std::move(points);
  points_dirty_ = true;
  showWelcome();
  if (first) fitView();
  redraw();
}
void BenchView::setPreviewPlacement(std::optional<Transform> to_part) {
  preview_placement_ = std::move(to_part);
  followPlacement();
  redraw();
}
void BenchView::stir() {
  overtaken();
  redraw();
}
void BenchView::overtaken() {
  moving_ = true;
  rest_.start();
}

GlCanvas::Pieces BenchView::readyGL() {
  Pieces pieces;
  if (!std::exchange(warm_, true) && renderer_.software()) pieces = renderer_.warmUp();
  if (scan_dirty_) {
    pieces.emplace_back([this] {
      scan_dirty_ = false;
      renderer_.setScan(scan_drawn_.get());
      values_dirty_ = true;
    });
  }
  if (others_dirty_) {
    pieces.emplace_back([this] {
      others_dirty_ = false;
      auto drawn = others_drawn_;
      if (guest_)
        std::erase_if(drawn, [&](const auto& other) { return other.arrays->scan == guest_->scan; });
      renderer_.setOtherScans(drawn);
    });
  }
  if (model_dirty_) {
    pieces.emplace_back([this] {
      std::vector<Renderer::Coloured> colours;
      if (!guest_) {
        for (const RouteState::Coloured& c : session_.route()->colours)
          colours.push_back(
              {c.triangles,
               c.colour ? QColor((*c.colour)[0], (*c.colour)[1], (*c.colour)[2]) : QColor(),
               c.translucent, c.solid});
      }
      renderer_.setModel(model_on_card_.get(), colours);
      model_dirty_ = false;
      values_dirty_ = true;
    });
  }
  if (preview_dirty_ || points_dirty_) {
    pieces.emplace_back([this] {
      if (std::exchange(preview_dirty_, false)) renderer_.setPreview(preview_.get());
      if (std::exchange(points_dirty_, false)) renderer_.setPoints(points_);
    });
  }
  if (values_dirty_ || scan_dirty_ || model_dirty_) {
    pieces.emplace_back([this] {
      values_dirty_ = false;
      refreshValues();
    });
  }
  return pieces;
}

GlCanvas::Pieces BenchView::paintGL() {
  QOpenGLFunctions* gl = QOpenGLContext::currentContext()->functions();
  gl->glClearColor(static_cast<float>(role::bench_low.redF()),
                   static_cast<float>(role::bench_low.greenF()),
                   static_cast<float>(role::bench_low.blueF()), 1);
  gl->glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT | GL_STENCIL_BUFFER_BIT);
  const project::Document& d = session_.document();
  Renderer::Frame frame;
  frame.view_projection = camera_.matrix(5000);
  frame.view_rotation = camera_.rotation.toRotationMatrix().cast<float>();
  frame.scan_to_part = placement().matrix().cast<float>();
  frame.width = static_cast<float>(width() * devicePixelRatioF());
  frame.height = static_cast<float>(height() * devicePixelRatioF());
  frame.pixel_ratio = static_cast<float>(devicePixelRatioF());
  frame.moving = moving_;
  const bool has_model = model_on_card_ != nullptr;
  frame.show_scan =
      d.scan != nullptr && scan_drawn_ && (show_ != Show::Model || !has_model) && !points_instead_;
  frame.scan_as_points = as_points_;
  frame.show_model = has_model && show_ != Show::Scan;
  frame.scan_paint =
      paint_ == Paint::Plain ? Paint::Tint : paint_;  // tint -1 is plain clay, picks still show
  if (field_) frame.scan_paint = Paint::Deviation;
  frame.model_paint = Paint::Tint;
  // A scan painted with numbers stands alone: the model would tint them.
  const bool numbers = field_ || paint_ == Paint::Deviation;
  frame.scan_opacity =
      (see_through_ || space_held_ || (frame.show_model && !numbers)) ? 0.38F : 1.0F;
  frame.model_opacity = show_ == Show::Both && numbers ? 0.5F : 1.0F;
  if (numbers && frame.show_scan) frame.show_model = false;
  if (d.scan) {
    const project::Visibility visibility = showing_.of_scan(d.scan->name);
    if (visibility == project::Visibility::Hidden) frame.show_scan = false;
    if (visibility == project::Visibility::Translucent)
      frame.scan_opacity = std::min(frame.scan_opacity, 0.38F);
  }
  if (clip_) {
    const Box3 box = shownBox();
    frame.clip = Eigen::Vector4f();
    frame.clip->head<3>() = clip_->normal.cast<float>();
    frame.clip->w() = static_cast<float>(-clip_->offset);
    frame.clip_centre = box.center().cast<float>();
    frame.clip_reach = static_cast<float>(box.diagonal().norm());
  }
  frame.range = field_ ? field_->range : static_cast<float>(d.deviation_range);
  frame.tolerance = field_ ? field_->tolerance : static_cast<float>(d.tolerance);
  lines_ = marks_;
  lines_.insert(lines_.end(), sketch_lines_.begin(), sketch_lines_.end());
  if (frame.show_model) lines_.insert(lines_.end(), model_edges_.begin(), model_edges_.end());
  if (paint_ == Paint::Tint && frame.show_scan && !moving_) {
    const Transform to_part = placement();
    for (const LineBatch& batch : region_borders_) {
      LineBatch moved = batch;
      for (auto& [a, b] : moved.segments) {
        a = to_part * a;
        b = to_part * b;
      }
      lines_.push_back(std::move(moved));
    }
  }
  frame.lines = &lines_;
  return renderer_.draw(frame);
}

void BenchView::paintOver(QPainter& painter) {
  painter.setRenderHint(QPainter::Antialiasing);
  paintHovered(painter);
  paintSheet(painter);
  if (drafting_) drafted_ = drafting_->paint(painter, camera_);
  paintCallouts(painter);
  paintHandles(painter);
  if (!rubber_.isEmpty()) {
    painter.setPen(QPen(role::red_pencil, 1.2, Qt::DashLine));
    painter.setBrush(QColor(0xC2, 0x40, 0x2A, 24));
    painter.drawPolygon(rubber_);
  }
  painter.setPen(QPen(role::red_pencil, 1.4));
  painter.setBrush(Qt::NoBrush);
  for (const QPolygonF& guide : guides_) painter.drawPolyline(guide);
  if (session_.document().scan || model_on_card_ || !points_.empty()) {
    paintTriad(painter);
    paintClip(painter);
    if (paint_ == Paint::Tint && !field_ && show_ != Show::Model) paintFinishKey(painter);
    paintTitleBlock(painter);
  }
  const bool deviation = paint_ == Paint::Deviation && session_.route()->map;
  if ((field_ || deviation) && (show_ != Show::Model || !model_on_card_)) paintScale(painter);
}

}  // namespace lostline::app
