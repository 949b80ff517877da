@echo off
rem Runs Mile from a download.
setlocal
set "MILE_HOME=%~dp0.."
set "MILE_JAVA=java"
if defined JAVA_HOME if exist "%JAVA_HOME%\bin\java.exe" set "MILE_JAVA=%JAVA_HOME%\bin\java.exe"
if exist "%MILE_HOME%\runtime\bin\java.exe" set "MILE_JAVA=%MILE_HOME%\runtime\bin\java.exe"
set "MILE_CLASSPATH=%MILE_HOME%\lib\*"
if defined MILE_DRIVERS set "MILE_CLASSPATH=%MILE_CLASSPATH%;%MILE_DRIVERS%"
"%MILE_JAVA%" -XX:+UseSerialGC -XX:-UsePerfData -XX:TieredStopAtLevel=1 -XX:Tier3InvocationThreshold=600 -XX:Tier3MinInvocationThreshold=10 -XX:Tier3CompileThreshold=5000 -Xshare:auto -Dfile.encoding=UTF-8 %MILE_JAVA_OPTS% -cp "%MILE_CLASSPATH%" dev.mile.cli.Main %*
exit /b %ERRORLEVEL%
