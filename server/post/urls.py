from django.urls import path

from .views import MailsView

urlpatterns = [path("mails", MailsView.as_view())]
