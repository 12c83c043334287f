#include "tray/tray.h"

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
    connect(&session_, &Session::levelChanged, this, [this] { page_->refresh(); });
    connect(&session_, &Session::builtChanged, this, [this] {
        if (session_.stage() == Stage::check && session_.up_to_date()) rebuild();
        if (session_.stage() == Stage::hand_off && session_.up_to_date()) page_->refresh();
    });
    rebuild();
}

void Tray::rebuild() {
    page_ = new Page(session_, {14, 12, 8, 4});
    scroll_->setWidget(page_); // and the page before is gone
    switch (session_.stage()) {
    case Stage::metrics:
        fill_metrics(*page_, *this);
        break;
    case Stage::block_out:
        fill_shapes(*page_, *this);
        break;
    case Stage::populate:
        fill_elements(*page_, *this);
        break;
    case Stage::dress:
        fill_materials(*page_);
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
    for (auto* tools : page_->findChildren<ToolButtons*>()) tools->mark(name);
}

} // namespace rubble::app
