"""The captures of Silvrin's demo job, a season at a hill pottery: all made up."""
