<h1>Skiaxis</h1>
