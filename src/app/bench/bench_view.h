#pragma once

#include <QPolygonF>
#include <QTimer>
#include <array>
#include <functional>

#include "bench/camera.h"
#include "bench/drafting.h"
#include "bench/gl_canvas.h"
#include "bench/renderer.h"
#include "jobs/session.h"

namespace lostline::app {

/// What lies under a click on the Bench.
struct Pick {
  enum class What { Nothing, Scan, Model } what = What::Nothing;
  QPointF screen;
  Vec3 point = Vec3::Zero();             ///< part coordinates
  std::uint32_t triangle = scan::kNone;  ///< of the scan
  std::uint32_t region = 0;
  std::uint32_t face = scan::kNone;  ///< of the model
  std::optional<std::size_t> edge;   ///< model edge near the pointer
  Qt::KeyboardModifiers modifiers;
};

/// A text at the end of a leader line.
struct Callout {
  Vec3 at;
  QString text;
  bool pencil = false;
};

/// One number a scan vertex, painted with the deviation's scale instead of the deviation.
struct Field {
  std::shared_ptr<const std::vector<float>> values;
  float range = 1;      ///< ends of the scale
  float tolerance = 0;  ///< half width of the paper band
  std::vector<std::pair<double, QString>> ticks;
  QString high, low;  ///< words at the ends
};

enum class Show { Scan, Model, Both };

/// The 3D view: a drawing sheet with scan, model and the running tool's marks.
class BenchView : public GlCanvas {
  Q_OBJECT
 public:
  explicit BenchView(Session& session, QWidget* parent = nullptr);
  ~BenchView() override;

  Camera& camera() { return camera_; }
  void fitView();
  /// Stands in the middle while there is no part.
  void setWelcome(QWidget* page);
  /// 1 front, 2 back, 3 left, 4 right, 5 top, 6 bottom, 0 oblique; about what is in the middle. Who
  /// saw the whole part sees it whole again.
  void lookAlong(int principal);
  void lookAlong(const Vec3& normal, const Vec3& up);
  /// The whole part, seen against a direction.
  void lookAt(const Vec3& normal, const Vec3& up);
  /// Fills the view with what is selected; false when nothing is.
  bool fitSelection();
  /// Looks straight at what is selected: against a plane's normal, along a round's axis.
  bool lookNormalToSelection();
  /// The next drag with the left button draws the box that the view is zoomed to.
  void zoomByWindow();
  /// A tool that turns the view away for its work keeps it before, and it comes back at the end.
  void keepView();
  void restoreView();
  /// Asked at a press of the left button: whether a drag from there is the running tool's. Else it
  /// turns the view, and the press counts as a pick only when it is released without a drag.
  void setDragTaker(std::function<bool(const Pick&)> taker) { drag_taker_ = std::move(taker); }
  /// Centres the view on a place, close enough to judge it.
  void flyTo(const Vec3& point);

  void sheetChanged();  ///< the colours of the sheet are others now
  void setShow(Show show);
  [[nodiscard]] Show show() const { return show_; }
  void setPaint(Paint paint);                 ///< of the scan
  void setField(std::optional<Field> field);  ///< instead of the paint, until taken away
  void setSeeThrough(bool on);
  /// Scans by their points, as they were measured, instead of the surface between them.
  void setScanAsPoints(bool on);
  [[nodiscard]] bool scanAsPoints() const { return as_points_; }
  void setGrid(bool on);  ///< straight grid lines, to judge parallelism in the principal views
  /// A model of a tool's own, shown and picked instead of the Route's; null: the Route's again.
  struct Guest {
    std::shared_ptr<const model::Tessellation> tessellation;
    std::shared_ptr<const scan::MeshIndex> index;
    /// An open scan that it stands for, not drawn beside it; null: none.
    std::shared_ptr<const project::Scan> scan;
  };
  void setGuest(std::shared_ptr<const Guest> guest);
  /// Scan triangles and regions marked in red pencil.
  void setSelection(const std::vector<std::uint32_t>& regions,
                    const std::vector<std::uint32_t>& triangles = {});
  void setModelSelection(const std::vector<std::uint32_t>& faces);
  /// What lies under the pointer, here or in a list: drawn over the picture, which is not drawn
  /// anew for it.
  struct Hovered {
    std::uint32_t region = 0;
    std::uint32_t face = scan::kNone;
    bool operator==(const Hovered&) const = default;
  };
  void setHovered(const Hovered& hovered);
  /// Outline of a selection being dragged, widget pixels; empty for none.
  /// Lines of what a pen would draw, in pixels.
  void setGuides(std::vector<QPolygonF> guides);
  void setRubber(const QPolygonF& outline);
  /// A number of the running tool that can be dragged on the Bench.
  struct Handle {
    int id = 0;
    Vec3 at = Vec3::Zero();      ///< part coordinates
    Vec3 along = Vec3::UnitZ();  ///< unit direction that it moves in
    QString text = {};
  };
  /// Told how far, in mm along its direction, a handle was dragged from where it was taken.
  using HandleDragged = std::function<void(int id, double moved, bool released)>;
  void setHandles(std::vector<Handle> handles, HandleDragged dragged = {});
  [[nodiscard]] const std::vector<Handle>& handles() const { return handles_; }
  /// Faces that the running tool would make, shaded in red pencil, through what lies before them.
  void setPreview(std::shared_ptr<const model::Tessellation> preview);
  [[nodiscard]] bool hasPreview() const { return preview_ != nullptr; }
  void setDrafting(std::shared_ptr<const Drafting> drafting);
  /// The mark or text of a constraint under the pointer.
  [[nodiscard]] std::optional<Drafting::Placed> draftedAt(const QPointF& at) const;
  [[nodiscard]] const std::vector<Drafting::Placed>& drafted() const { return drafted_; }
  /// A plane that can be dragged by its handle: what lies beyond it is not shown or picked, and
  /// the model's solids show their cut.
  struct Clip {
    Vec3 normal = Vec3::UnitZ();  ///< points to what is left out, part coordinates
    double offset = 0;            ///< of the plane along it, mm
  };
  void setClip(std::optional<Clip> clip);
  [[nodiscard]] const std::optional<Clip>& clip() const { return clip_; }
  /// Through the middle of what is shown, square to the axis of the part that is nearest to the
  /// view; what is nearer to the eye goes.
  void clipAcrossView();
  /// Where the clip plane can be taken, in pixels.
  [[nodiscard]] QPointF clipHandle() const;
  /// What lies wholly inside a box of the screen: regions where the scan is shown, else faces.
  [[nodiscard]] std::vector<Item> itemsIn(const QRectF& box) const;
  void setMarks(std::vector<LineBatch> marks, std::vector<Callout> callouts = {});
  /// Points of a tool's own, beside the scan or instead of it. The view is fitted to the first ones
  /// where nothing else is shown.
  void setPoints(std::vector<std::shared_ptr<const PointBatch>> points, bool instead = false);
  [[nodiscard]] const std::vector<std::shared_ptr<const PointBatch>>& points() const {
    return points_;
  }
  /// Another placement of the scan, for a preview before it is kept.
  void setPreviewPlacement(std::optional<Transform> to_part);
  [[nodiscard]] Pick pickAt(const QPointF& at, Qt::KeyboardModifiers modifiers = {}) const;
  /// Tells that a preview is being dragged: the reduced scan is drawn until it rests.
  void stir();
  /// The present view, to be kept, and back to a kept one.
  [[nodiscard]] project::SavedView savedView(const std::string& name) const;
  void recall(const project::SavedView& view);

 Q_SIGNALS:
  void picked(const lostline::app::Pick& pick);
  void dragged(const QPointF& at, bool released);
  void pointed(const QPointF& at);  ///< the pointer moved with no button down
  void doubleClicked(const QPointF& at);
  void hovered(const QString& text);
  void hoveredRegion(std::uint32_t region);  ///< 0 for none
  /// A box was drawn with Shift held.
  void boxed(const QRectF& box, Qt::KeyboardModifiers modifiers);
  /// Clicked with the right button.
  void menuWanted(const lostline::app::Pick& pick, const QPointF& at);

 protected:
  void initializeGL() override;
  Pieces readyGL() override;
  Pieces paintGL() override;
  [[nodiscard]] bool roughly() const override { return moving_ && renderer_.software(); }
  /// Pictures that follow one another quickly are drawn like those of a moving view.
  void overtaken() override;
  void paintOver(QPainter& painter) override;
  void resizeEvent(QResizeEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  bool event(QEvent* event) override;
  void leaveEvent(QEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void keyReleaseEvent(QKeyEvent* event) override;

 private:
  void showWelcome();  ///< while nothing else is there
  void placeWelcome();
  void documentChanged();
  void routeChanged();
  void refreshValues();
  void refreshWashes();
  [[nodiscard]] Transform placement() const;
  /// Keeps the picture of the scan where it is when the scan is placed or scaled anew.
  void followPlacement();
  void followScale(const project::Scan& before, const project::Scan& now);
  [[nodiscard]] Box3 shownBox() const;
  /// Corners of all selected triangles, scan and model, part coordinates.
  [[nodiscard]] std::vector<std::array<Vec3, 3>> selectedTriangles() const;
  [[nodiscard]] Vec3 pivotAt(const QPointF& at) const;
  void hover(const QPointF& at);
  void paintSheet(QPainter& painter);
  void paintTitleBlock(QPainter& painter);
  void paintScale(QPainter& painter);
  void paintTriad(QPainter& painter);
  void paintClip(QPainter& painter);
  void paintHandles(QPainter& painter);
  [[nodiscard]] std::optional<std::size_t> handleAt(const QPointF& at) const;
  void dragHandle(const QPointF& at, bool released);
  /// Tips of the axes' mark, in pixels: a click there looks along the axis.
  [[nodiscard]] std::array<QPointF, 3> triadTips() const;
  bool clickTriad(const QPointF& at);
  [[nodiscard]] bool clipped(const Vec3& p) const {
    return clip_ && clip_->normal.dot(p) > clip_->offset;
  }
  void refreshShowing();
  /// Makes what the graphics card needs of the scans, off the window's thread; until it is there
  /// what was drawn stays.
  void prepareScans();
  void paintFinishKey(QPainter& painter);  ///< what the patterns of the washes mean
  void paintCallouts(QPainter& painter);
  void paintHovered(QPainter& painter);
  [[nodiscard]] std::vector<std::pair<Vec3, Vec3>> bordersOfFace(std::uint32_t face) const;

  Session& session_;
  Renderer renderer_;
  Camera camera_;
  Show show_ = Show::Both;
  Paint paint_ = Paint::Plain;
  std::optional<Field> field_;
  bool see_through_ = false;
  bool as_points_ = false;
  bool space_held_ = false;
  bool grid_ = false;
  bool moving_ = false;
  bool framed_once_ = false;
  QTimer rest_;
  QPointF last_;
  QPointF pressed_;
  std::vector<std::uint32_t> selected_regions_, selected_triangles_, selected_faces_;
  std::vector<int> wash_of_region_;
  std::vector<LineBatch> marks_, lines_;
  std::vector<std::shared_ptr<const PointBatch>> points_;
  bool points_dirty_ = false;
  bool points_instead_ = false;  ///< of the scan
  bool warm_ = false;            ///< what draws was compiled
  std::vector<LineBatch> model_edges_, region_borders_;
  /// Of each region, indices into the segments of `region_borders_`.
  std::vector<std::vector<std::uint32_t>> borders_of_region_;
  Hovered hovered_;
  std::vector<std::pair<Vec3, Vec3>> hovered_borders_;  ///< part coordinates
  std::vector<Callout> callouts_;
  QPolygonF rubber_;
  std::vector<QPolygonF> guides_;
  std::optional<Transform> preview_placement_;
  std::shared_ptr<const project::Scan> scan_on_card_;
  std::vector<std::shared_ptr<const project::Scan>> others_on_card_;
  std::shared_ptr<const ScanArrays> scan_drawn_;  ///< may lag behind `scan_on_card_`
  std::vector<Renderer::OtherScan> others_drawn_;
  bool scan_wanted_ = false, others_wanted_ = false;  ///< drawn anew
  int scans_asked_ = 0;
  std::shared_ptr<const survey::Survey> survey_shown_;
  std::shared_ptr<const model::Tessellation> model_on_card_;
  std::shared_ptr<const Guest> guest_;
  bool scan_dirty_ = true, others_dirty_ = true, model_dirty_ = true, values_dirty_ = true;
  QWidget* welcome_ = nullptr;
  std::function<bool(const Pick&)> drag_taker_;
  /// What a drag with the left button does.
  enum class Drag { None, Undecided, Tool, Orbit, Window, Box, Clip, Handle } drag_ = Drag::None;
  bool window_wanted_ = false;
  Vec3 pivot_ = Vec3::Zero();  ///< that a drag orbits about
  std::optional<Camera> kept_camera_;
  std::optional<Clip> clip_;
  std::vector<Handle> handles_;
  HandleDragged handle_dragged_;
  std::size_t held_ = 0;  ///< handle being dragged, and where it was taken
  Vec3 held_from_ = Vec3::Zero(), held_along_ = Vec3::UnitZ();
  std::shared_ptr<const model::Tessellation> preview_;
  bool preview_dirty_ = false;
  std::shared_ptr<const Drafting> drafting_;
  std::vector<Drafting::Placed> drafted_;     ///< as last painted
  project::Showing showing_;                  ///< as drawn
  std::vector<LineBatch> sketch_lines_;       ///< of sketches drawn all the time
  Transform placed_ = Transform::Identity();  ///< of the scan, as the camera last saw it
};

}  // namespace lostline::app
