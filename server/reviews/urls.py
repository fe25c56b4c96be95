from django.urls import path

from . import shared, views

urlpatterns = [
    path("matches/<uuid:match>/review", views.ReviewView.as_view()),
    path("matches/<uuid:match>/prospects", views.ProspectsView.as_view()),
    path("matches/<uuid:match>/prospects/spread", views.SpreadView.as_view()),
    path("matches/<uuid:match>/errors/<str:key>", views.RemarkView.as_view()),
    path("matches/<uuid:match>/notes", views.NotesView.as_view()),
    path("matches/<uuid:match>/notes/<int:note>", views.NoteView.as_view()),
    path("matches/<uuid:match>/cuts", views.CutsView.as_view()),
    path("matches/<uuid:match>/cuts/<uuid:cut>", views.CutView.as_view()),
    path("matches/<uuid:match>/cuts/<uuid:cut>/<str:part>", views.CutContentView.as_view()),
    path("matches/<uuid:match>/letter", views.LetterView.as_view()),
    path("matches/<uuid:match>/report", views.ReportView.as_view()),
    path("matches/<uuid:match>/report.pdf", views.ReportFileView.as_view()),
    path("matches/<uuid:match>/links", views.LinksView.as_view()),
    path("matches/<uuid:match>/links/<uuid:link>", views.LinkView.as_view()),
    path("matches/<uuid:match>/questions", views.QuestionsView.as_view()),
    path("matches/<uuid:match>/questions/<str:form>", views.QuestionsPageView.as_view()),
    path("matches/<uuid:match>/file/<str:form>", views.FileView.as_view()),
    path("causes", views.CausesView.as_view()),
    path("shared/<str:token>", shared.SharedReportView.as_view()),
    path("shared/<str:token>/report.pdf", shared.SharedFileView.as_view()),
    path("shared/<str:token>/cuts/<uuid:cut>/<str:part>", shared.SharedCutView.as_view()),
    path("shared/<str:token>/answers", shared.SharedAnswersView.as_view()),
    path("shared/<str:token>/drills/<str:key>", shared.SharedDrillView.as_view()),
]
