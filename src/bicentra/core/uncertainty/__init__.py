"""How sure each finding is: the survey's uncertainty carried to the last figure."""
