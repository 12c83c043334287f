#include "tray/tray.h"

#include <QTabBar>

#include "tray/layer_list.h"
#include "tray/pages.h"
#include "tray/tool_buttons.h"

namespace rubble::app {

Tray::Tray(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setAccessibleName(tr("Tray"));
    column_ = new QVBoxLayout(this);
    column_->setContentsMargins(0, 0, 0, 0);
    scroll_ = new QScrollArea;
    scroll_->setWidgetResizable(true);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    column_->addWidget(scroll_, 1);
    column_->addWidget(new LayerList(session_));
    connect(&session_, &Session::stageChanged, this, &Tray::rebuild);
    connect(&session_, &Session::documentOpened, this, &Tray::rebuild);
    connect(&session_, &Session::levelChanged, this, [this] {
        // How one walks decides which elements act, and the project has kinds of its own.
        if (session_.stage() == Stage::populate &&
            (session_.level().walked != walked_ || session_.project().element_kinds != kinds_))
            QMetaObject::invokeMethod(this, &Tray::rebuild, Qt::QueuedConnection);
        else
            page_->refresh();
    });
    connect(&session_, &Session::builtChanged, this, [this] {
        if (session_.stage() == Stage::check && session_.up_to_date()) rebuild();
        if (session_.stage() == Stage::hand_off && session_.up_to_date()) page_->refresh();
    });
    connect(&session_, &Session::puzzleAnswerChanged, this, [this] {
        if (session_.stage() == Stage::check && session_.puzzle_answer().newest) rebuild();
    });
    rebuild();
}

void Tray::rebuild() {
    page_ = new Page(session_, {14, 12, 8, 4});
    scroll_->setWidget(page_); // and the page before is gone
    walked_ = session_.level().walked, kinds_ = session_.project().element_kinds;
    switch (session_.stage()) {
    case Stage::metrics:
        fill_metrics(*page_, *this);
        break;
    case Stage::block_out:
        add_offers();
        offers_pieces_ ? fill_pieces(*page_, *this) : fill_shapes(*page_, *this);
        break;
    case Stage::populate:
        fill_elements(*page_, *this);
        break;
    case Stage::dress:
        add_dress_offers();
        offers_props_ ? fill_props(*page_, *this) : fill_materials(*page_, *this);
        break;
    case Stage::check:
        fill_check(*page_, *this);
        break;
    case Stage::hand_off:
        fill_hand_off(*page_, *this);
        break;
    }
    if (session_.stage() != Stage::dress) page_->column().addStretch();
    page_->refresh();
    mark_tool(tool_);
    fit_hints();
}

/// What Block out builds from: one of two is shown.
void Tray::add_offers() {
    auto* offers = new QTabBar;
    offers->setDrawBase(false);
    offers->setExpanding(true);
    offers->setAccessibleName(tr("What is built from"));
    offers->addTab(session_.level().frame == Frame::space ? tr("Shapes") : tr("Tiles"));
    offers->addTab(tr("Pieces"));
    offers->setCurrentIndex(offers_pieces_ ? 1 : 0);
    page_->column().addWidget(offers);
    // Later: the page that the bar is on is made anew.
    connect(
        offers, &QTabBar::currentChanged, this, [this](int index) { offer_pieces(index == 1); },
        Qt::QueuedConnection);
}

/// What Dress works with: one of two is shown.
void Tray::add_dress_offers() {
    auto* offers = new QTabBar;
    offers->setDrawBase(false);
    offers->setExpanding(true);
    offers->setAccessibleName(tr("What is dressed with"));
    offers->addTab(tr("Materials"));
    offers->addTab(tr("Props"));
    offers->setCurrentIndex(offers_props_ ? 1 : 0);
    page_->column().addWidget(offers);
    connect(
        offers, &QTabBar::currentChanged, this, [this](int index) { offer_props(index == 1); },
        Qt::QueuedConnection);
}

void Tray::offer_props(bool on) {
    if (on == offers_props_) return;
    offers_props_ = on;
    if (session_.stage() == Stage::dress) rebuild();
}

void Tray::offer_pieces(bool on) {
    if (on == offers_pieces_) return;
    offers_pieces_ = on;
    if (session_.stage() == Stage::block_out) rebuild();
}

void Tray::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    fit_hints();
}

void Tray::fit_hints() {
    const auto hints = page_->findChildren<QLabel*>(QStringLiteral("hint"));
    for (QLabel* hint : hints) hint->show();
    const QSize room = scroll_->viewport()->size();
    if (page_->layout()->totalHeightForWidth(room.width()) > room.height())
        for (QLabel* hint : hints) hint->hide();
}

void Tray::set_keys(std::function<QString(const QString& tool)> key_of) {
    key_of_ = std::move(key_of);
    rebuild();
}

void Tray::mark_tool(const QString& name) {
    tool_ = name;
    if (name == QStringLiteral("piece") && !offers_pieces_)
        return offer_pieces(true); // and it is marked by that
    if (name == QStringLiteral("prop") && !offers_props_) return offer_props(true);
    for (auto* tools : page_->findChildren<ToolButtons*>()) tools->mark(name);
}

} // namespace rubble::app
